import type { Studio } from '../../core/records/types.ts';
import { CATALOGUE } from './catalogue.ts';
import { isSampleRider } from './samples.ts';

const FIELDS = ['name', 'fitter', 'contact'] as const;

/** Whether the studio's words are still those that it came with. */
export const isSample = (studio: Studio): boolean =>
  FIELDS.some((k) => studio[k] === CATALOGUE.studio[k] && studio[k] !== '');

/** A studio without the sample's words, for riders of one's own: nothing of theirs is signed by made-up people. */
export function signedFor(riderId: string, studio: Studio): Studio {
  if (isSampleRider(riderId)) return studio;
  const own = Object.fromEntries(FIELDS.map((k) => [k, studio[k] === CATALOGUE.studio[k] ? '' : studio[k]]));
  return { ...studio, ...own };
}
