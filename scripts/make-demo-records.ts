/** Writes what was noted of the demo riders before filming, app/demo/records.json, from the dossiers and the virtual riders. */
import { writeFileSync } from 'node:fs';
import { DOSSIERS } from './demo/dossiers.ts';

writeFileSync('app/demo/records.json', `${JSON.stringify(DOSSIERS, null, 1)}\n`);
