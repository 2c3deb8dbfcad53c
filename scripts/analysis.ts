import { readFileSync } from 'node:fs';
import { parseArgs } from 'node:util';
import { summarise } from '../core/formats/angles.ts';
import { parseTracksCsv } from '../core/formats/tracksCsv.ts';
import { readTracks } from '../core/kinematics/read.ts';
import { refuse } from './refusal.ts';

const fail = (why: string): never => refuse(`analyse: ${why}`);

/** What the command was called with. */
function called(args: string[]): { file: string; mmPerPx: number; facing?: 'left' | 'right' } {
  let parsed;
  try {
    parsed = parseArgs({
      args,
      allowPositionals: true,
      options: { 'mm-per-px': { type: 'string' }, facing: { type: 'string' } },
    });
  } catch (e) {
    return fail((e as Error).message);
  }
  const [file, ...more] = parsed.positionals;
  if (!file || more.length)
    return fail('name one tracks table: analyse tracks.csv --mm-per-px 2.75 [--facing left|right]');
  const mmPerPx = Number(parsed.values['mm-per-px']);
  if (!(mmPerPx > 0)) return fail('--mm-per-px takes the scale, millimetres for a pixel, over 0');
  const facing = parsed.values.facing;
  if (facing !== undefined && facing !== 'left' && facing !== 'right')
    return fail('--facing takes left or right');
  return { file, mmPerPx, facing };
}

/**
 * The summary of a tracks table, as JSON.
 * @param args the table’s file, --mm-per-px and, where it is known, --facing  @throws Refusal where they or the table are no such thing
 */
export function analysis(args: string[]): string {
  const { file, mmPerPx, facing } = called(args);
  let text = '';
  try {
    text = readFileSync(file, 'utf8');
  } catch (e) {
    fail(`${file} can't be read (${(e as NodeJS.ErrnoException).code ?? 'error'})`);
  }
  const parsed = parseTracksCsv(text);
  if (!parsed.ok) return fail(`${file}: ${parsed.message}`);
  const reading = readTracks(parsed.tracks, { mmPerPx, facing });
  if (!reading.ok) return fail(`${file}: ${reading.detail}`);
  return JSON.stringify(summarise(reading), null, 2);
}
