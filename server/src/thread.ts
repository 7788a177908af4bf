import { existsSync } from 'node:fs';
import { createRequire } from 'node:module';
import { basename } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { Worker, type ResourceLimits } from 'node:worker_threads';

/** Starts one of the server's own threads, `bundle/readerThread`: built, or from source. */
export function threadOf(name: string, resourceLimits: ResourceLimits = {}): Worker {
  const options = { resourceLimits, execArgv: [] };
  const built = fileURLToPath(new URL(`${basename(name)}.js`, import.meta.url));
  if (existsSync(built)) return new Worker(built, options);
  // Run from source: a thread does not inherit what reads TypeScript.
  const source = new URL(`${name}.ts`, import.meta.url).href;
  const tsx = pathToFileURL(
    createRequire(import.meta.url)
      .resolve('tsx/esm/api')
      .replace(/\.cjs$/, '.mjs'),
  ).href;
  const start = `import { register } from ${JSON.stringify(tsx)}; register(); await import(${JSON.stringify(source)});`;
  return new Worker(new URL(`data:text/javascript,${encodeURIComponent(start)}`), options);
}
