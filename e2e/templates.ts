import { existsSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { startServer, templateFolder } from './server.js';

/**
 * Makes the two data folders every test copies: an empty one, and one with the demo. The proof makes them once for its
 * parts, which run beside each other.
 */
export default async function templates(): Promise<void> {
  for (const kind of ['empty', 'demo'] as const) {
    if (process.env.TEMPLATES_KEPT && existsSync(templateFolder(kind))) continue;
    await rm(templateFolder(kind), { recursive: true, force: true });
    const server = await startServer(templateFolder(kind), { demo: kind === 'demo' });
    await server.stop();
  }
}
