/** Server from source on 4870 with the demo data, and Vite with hot reload in front of it. */
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { root } from './setup.mjs';

const children = [
  spawn(process.execPath, ['--watch', '--import', 'tsx', join(root, 'server', 'src', 'main.ts'), '--demo'], {
    cwd: root,
    stdio: 'inherit',
  }),
  spawn(process.execPath, [join(root, 'node_modules', 'vite', 'bin', 'vite.js')], {
    cwd: join(root, 'web'),
    stdio: 'inherit',
  }),
];
const stop = () => children.forEach((c) => c.kill('SIGTERM'));
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, stop);
children.forEach((c) => c.on('exit', stop));
