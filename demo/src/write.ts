/** Writes demo/bundle.json from the scenario. */
import { writeFileSync } from 'node:fs';
import { scenario } from './scenario.js';

writeFileSync(new URL('../bundle.json', import.meta.url), `${JSON.stringify(scenario, null, 1)}\n`);
