/**
 * Writes what was noted of the demo riders before filming, app/demo/records.json, from the dossiers and the virtual riders; and Maren's
 * whole story, app/demo/story.json, from the tracks of her films.
 */
import { writeFileSync } from 'node:fs';
import takes from '../app/demo/takes.json' with { type: 'json' };
import type { Take } from '../core/records/types.ts';
import { DOSSIERS } from './demo/dossiers.ts';
import { marenStory } from './demo/story.ts';

writeFileSync('app/demo/records.json', `${JSON.stringify(DOSSIERS, null, 1)}\n`);
writeFileSync(
  'app/demo/story.json',
  `${JSON.stringify(marenStory(takes as unknown as Record<string, Take[]>), null, 1)}\n`,
);
