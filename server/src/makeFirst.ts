/** `node server/dist/makeFirst.js FOLDER`: the last step of building the server. */
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { makeFirst } from './db/first.js';
import { readMigrations } from './db/migrate.js';

// process.argv[]!: the folder, see above.

const migrations = join(dirname(fileURLToPath(import.meta.url)), '..', 'migrations');
await makeFirst(process.argv[2]!, await readMigrations(migrations));
process.exit(0);
