import type { Moves } from '../controls/controls.ts';
import type { Stage } from '../controls/controlTable.ts';

/** A line before it is placed in a round: what speaks for it, and all that it would move in the end. */
export interface Draft {
  key: string;
  stage: Stage;
  p: number;
  /** The fault in a fitter's words: “too low”. */
  fault: string;
  madeOf: string[];
  why: string[];
  /** Complaints that it would explain, by id. */
  answers: string[];
  whole: Moves;
  /** The parts on the bike give no more than this of it. */
  cap?: Moves;
  /** It takes a part that has to be bought. */
  bought?: boolean;
  /** A small reversible step to try it by; the first step of `whole` where left out. */
  tryMoves?: Moves;
  title?: string | null;
  risk?: string[];
  check: string;
  vanishes?: string[];
  instead?: string | null;
  /** Never under now: it has to be bought, asked for, or waits for another line. */
  atMost?: 'later' | 'try';
  /** Stands at least so, whatever its figure: the leading suspect of a complaint, a question that was answered. */
  atLeast?: 'later' | 'try';
}
