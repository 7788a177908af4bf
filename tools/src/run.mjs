/** The project's commands: `node tools/src/run.mjs demo | start | backup | restore | dev | build | perf | proof | docs | shots | evaluate`. */
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { build, checkNode, chromium, main, packages, root, run, SetupProblem } from './setup.mjs';

const [command, ...rest] = process.argv.slice(2);

/** Hands over to a child: signals go to it, its exit code becomes ours. */
function become(args, { cwd = root, env = process.env } = {}) {
  const child = spawn(process.execPath, args, { cwd, stdio: 'inherit', env });
  for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
  child.on('exit', (code, signal) => process.exit(code ?? (signal ? 1 : 0)));
}

const typescript = (file, ...args) => become(['--import', 'tsx', join(root, file), ...args]);
const server = (...args) => become([join(root, 'server', 'dist', 'main.js'), ...args]);

await main(async () => {
  checkNode();
  packages();
  switch (command) {
    case 'demo':
      build();
      return server('--demo');
    case 'start':
      build();
      return server();
    case 'backup':
    case 'restore':
      build();
      return server(command, ...rest);
    case 'build':
      return build({ force: true });
    case 'dev':
      return become([join(root, 'tools', 'src', 'dev.mjs')]);
    case 'perf':
      build();
      return become(['--import', 'tsx', join(root, 'tools/src/perf/perf.ts'), ...rest], {
        env: { ...process.env, CHROMIUM_PATH: chromium() },
      });
    case 'proof':
      return become([join(root, 'tools/src/proof.mjs'), ...rest]);
    case 'docs':
      run(process.execPath, [join(root, 'tools/src/licences.mjs')], 'NOTICE.md was not written: see above.');
      return typescript('tools/src/docs.ts', ...rest);
    case 'shots':
      build();
      return become(['--import', 'tsx', join(root, 'tools/src/shots.ts'), ...rest], {
        env: { ...process.env, CHROMIUM_PATH: chromium() },
      });
    case 'evaluate':
      return typescript('tools/src/evaluate.ts', ...rest);
    default:
      throw new SetupProblem(`There is no command “${command}”.`);
  }
});
