import type { Part, PartKind } from '../bike/parts.ts';
import type { BikeSetup } from '../bike/setup.ts';
import type { ControlKey } from '../plan/controls/controlTable.ts';
import type { Moves } from '../plan/controls/controls.ts';

/** A line of the parts list. */
export interface OrderLine {
  key: string;
  what: string;
  count: number;
  /** In the studio's money, for all of them; null where no price is known. */
  price: number | null;
  /** From the parts bin, or still to be ordered. */
  from: 'bin' | 'order';
}

/** A job for the mechanic, with whether a bolt in it has a torque. */
export interface Job {
  key: string;
  what: string;
  /** What is tightened to the maker's torque. */
  bolts: string[];
}

const find = (parts: readonly Part[], kind: PartKind, like: (p: Part) => boolean): Part | undefined =>
  parts.find((p) => p.kind === kind && like(p));

const line = (key: string, what: string, part: Part | undefined, count = 1): OrderLine => ({
  key,
  what: part ? `${what}: ${part.name}` : what,
  count,
  price: part === undefined || part.price === null ? null : part.price * count,
  from: part && part.count >= count ? 'bin' : 'order',
});

/** Spacers out of the parts bin that make up a height, the largest first; what is left over has to be ordered. */
function spacerLines(parts: readonly Part[], mm: number): OrderLine[] {
  const out: OrderLine[] = [];
  let left = mm;
  const sizes = parts
    .filter((p) => p.kind === 'spacer' && p.stackMm && p.count > 0)
    .sort((a, b) => b.stackMm! - a.stackMm!);
  for (const p of sizes) {
    const count = Math.min(p.count, Math.floor((left + 0.01) / p.stackMm!));
    if (count > 0) {
      out.push(line(`spacer-${p.stackMm}`, `Spacer ${p.stackMm} mm`, p, count));
      left -= count * p.stackMm!;
    }
  }
  if (left > 0.5) out.push(line('spacer-rest', `Spacers, ${Math.round(left)} mm`, undefined));
  return out;
}

/**
 * The parts that make one set-up out of another: what was taken from the parts bin, what has to be ordered, each with its price where the parts bin
 * knows one.
 */
// eslint-disable-next-line max-lines-per-function -- one row after the other, as they stand on the sheet
export function partsBetween(from: BikeSetup, to: BikeSetup, parts: readonly Part[]): OrderLine[] {
  const out: OrderLine[] = [];
  const { stem, bar, saddle, crank, pedals } = to;
  if (stem.lengthMm !== from.stem.lengthMm || stem.angleDeg !== from.stem.angleDeg) {
    const words = `Stem ${stem.lengthMm ?? '?'} mm${stem.angleDeg === null ? '' : `, ${String(stem.angleDeg).replace('-', '−')}°`}`;
    out.push(
      line(
        'stem',
        words,
        find(parts, 'stem', (p) => p.lengthMm === stem.lengthMm && p.angleDeg === stem.angleDeg),
      ),
    );
  }
  const spacers = (stem.spacersMm ?? 0) - (from.stem.spacersMm ?? 0);
  if (stem.spacersMm !== null && spacers > 0) out.push(...spacerLines(parts, spacers));
  if (bar.widthMm !== from.bar.widthMm || bar.reachMm !== from.bar.reachMm || bar.model !== from.bar.model)
    out.push(
      line(
        'bar',
        `Bar ${bar.widthMm ?? '?'} mm`,
        find(parts, 'bar', (p) => p.widthMm === bar.widthMm),
      ),
    );
  if (saddle.widthMm !== from.saddle.widthMm || saddle.model !== from.saddle.model)
    out.push(
      line(
        'saddle',
        `Saddle ${saddle.widthMm ?? '?'} mm`,
        find(parts, 'saddle', (p) => p.widthMm === saddle.widthMm),
      ),
    );
  if (crank.lengthMm !== from.crank.lengthMm)
    out.push(
      line(
        'crank',
        `Cranks ${crank.lengthMm ?? '?'} mm`,
        find(parts, 'crank', (p) => p.lengthMm === crank.lengthMm),
      ),
    );
  if (pedals.axleLengthMm !== from.pedals.axleLengthMm || pedals.model !== from.pedals.model)
    out.push(
      line(
        'pedal',
        `Pedals${pedals.model ? ` ${pedals.model}` : ''}`,
        find(parts, 'pedal', (p) => p.lengthMm === pedals.axleLengthMm),
      ),
    );
  for (const side of ['left', 'right'] as const) {
    const [was, is] = [from.feet[side], to.feet[side]];
    if (is.shimMm > was.shimMm)
      out.push(
        line(
          `shim-${side}`,
          `Cleat shim, ${side}, ${is.shimMm - was.shimMm} mm`,
          find(parts, 'shim', (p) => p.stackMm === is.shimMm - was.shimMm),
        ),
      );
    const wedges = Math.round((Math.abs(is.wedgeDeg) - Math.abs(was.wedgeDeg)) / 1.5);
    if (wedges > 0)
      out.push(
        line(
          `wedge-${side}`,
          `Forefoot wedge, ${side}`,
          find(parts, 'wedge', () => true),
          wedges,
        ),
      );
    if (is.washers > was.washers)
      out.push(
        line(
          `washer-${side}`,
          `Pedal washer, ${side}`,
          find(parts, 'washer', () => true),
        ),
      );
  }
  return out;
}

/** What a list costs, and how many of its lines have no price. */
export function totalOf(lines: readonly OrderLine[]): { price: number; unpriced: number } {
  return {
    price: lines.reduce((s, l) => s + (l.price ?? 0), 0),
    unpriced: lines.filter((l) => l.price === null).length,
  };
}

const JOBS: readonly { key: string; places: RegExp; what: string; bolts: string[] }[] = [
  {
    key: 'cleats',
    places: /^feet\./,
    what: 'Cleats, shims and washers',
    bolts: ['cleat bolts', 'pedal axles'],
  },
  { key: 'crank', places: /^crank\./, what: 'Cranks', bolts: ['crank bolts', 'pedal axles'] },
  { key: 'pedals', places: /^pedals\./, what: 'Pedals', bolts: ['pedal axles'] },
  {
    key: 'saddle',
    places: /^saddle\.(tilt|setback|width|length|model|noseTo)/,
    what: 'Saddle on its rails',
    bolts: ['rail clamp'],
  },
  {
    key: 'post',
    places: /^saddle\.(height|post)/,
    what: 'Seatpost, inside its marks, carbon paste where it belongs',
    bolts: ['seatpost clamp'],
  },
  {
    key: 'stem',
    places: /^stem\./,
    what: 'Stem and spacers; headset without play',
    bolts: ['steerer bolts', 'top cap', 'face plate'],
  },
  { key: 'bar', places: /^(bar|extensions)\./, what: 'Bar', bolts: ['face plate', 'extension clamps'] },
  {
    key: 'levers',
    places: /^levers\./,
    what: 'Levers, the same on both sides; brakes straight and reached',
    bolts: ['lever clamps'],
  },
];

/** The jobs that a set of changed places makes, in working order, each with its bolts. */
export function jobsFor(places: readonly string[]): Job[] {
  return JOBS.filter((j) => places.some((at) => j.places.test(at))).map(({ key, what, bolts }) => ({
    key,
    what,
    bolts: key === 'bar' && !places.some((at) => at.startsWith('extensions.')) ? bolts.slice(0, 1) : bolts,
  }));
}

/** What bolts settle: said with every work order. */
export const RETORQUE =
  'Again to the maker’s torque: cleats after the first ride; stem, bar, seatpost and saddle after about 100 km.';

/** The set-up that moves would make, for the parts that a plan still asks for; only what a part is bought for. */
export function boughtMoves(moves: Moves): Moves {
  const bought: readonly ControlKey[] = [
    'stemLength',
    'stemAngle',
    'spacers',
    'barReach',
    'barWidth',
    'saddleWidth',
    'crank',
    'pedalAxle',
  ];
  return Object.fromEntries(
    Object.entries(moves).filter(
      ([key]) => bought.includes(key as ControlKey) || /^(washers|wedge|shim)\./.test(key),
    ),
  );
}
