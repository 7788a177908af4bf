import { rm } from 'node:fs/promises';
import { startServer, templateFolder } from './server.js';

/** Makes the two data folders every test copies: an empty one, and one with the demo. */
export default async function templates(): Promise<void> {
  for (const kind of ['empty', 'demo'] as const) {
    await rm(templateFolder(kind), { recursive: true, force: true });
    const server = await startServer(templateFolder(kind), { demo: kind === 'demo' });
    await server.stop();
  }
}
