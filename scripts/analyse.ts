/**
 * Reads a tracks table without a browser:
 *   npm run --silent analyse -- tracks.csv --mm-per-px 2.75 [--facing left|right]
 * Prints JSON. A bad file or call: one line on stderr, exit 2.
 */
import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { summarise } from '../core/formats/angles.ts';
import { parseTracksCsv } from '../core/formats/tracksCsv.ts';
import { readTracks } from '../core/kinematics/read.ts';

function fail(message: string): never {
  process.stderr.write(`analyse: ${message.replace(/\s+/g, ' ')}\n`);
  process.exit(2);
}

function call(): { file: string; mmPerPx: number; facing?: 'left' | 'right' } {
  let parsed;
  try {
    parsed = parseArgs({
      allowPositionals: true,
      options: { 'mm-per-px': { type: 'string' }, facing: { type: 'string' } },
    });
  } catch (e) {
    fail((e as Error).message);
  }
  const [file, ...more] = parsed.positionals;
  if (!file || more.length)
    fail('name one tracks table: analyse tracks.csv --mm-per-px 2.75 [--facing left|right]');
  const mmPerPx = Number(parsed.values['mm-per-px']);
  if (!(mmPerPx > 0)) fail('--mm-per-px takes the scale, millimetres for a pixel, over 0');
  const facing = parsed.values.facing;
  if (facing !== undefined && facing !== 'left' && facing !== 'right') fail('--facing takes left or right');
  return { file, mmPerPx, facing };
}

const { file, mmPerPx, facing } = call();
let text = '';
try {
  text = readFileSync(file, 'utf8');
} catch (e) {
  fail(`${file} can't be read (${(e as NodeJS.ErrnoException).code ?? 'error'})`);
}
const parsed = parseTracksCsv(text);
if (!parsed.ok) fail(`${file}: ${parsed.message}`);
const reading = readTracks(parsed.tracks, { mmPerPx, facing });
if (!reading.ok) fail(`${file}: ${reading.detail}`);
process.stdout.write(`${JSON.stringify(summarise(reading), null, 2)}\n`);
