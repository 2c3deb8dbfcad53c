import type { BikeSetup } from '../../../core/bike/setup.ts';
import { CONTROLS, type ControlKey } from '../../../core/plan/controls/controlTable.ts';
import { stanceByMm, standsAt, type Moves } from '../../../core/plan/controls/controls.ts';
import { lengthWithUnit, type LengthUnit } from '../../../core/units/length.ts';

const amount = (key: ControlKey, v: number, unit: LengthUnit): string => {
  const { unit: own } = CONTROLS[key];
  const rounded = Math.round(10 * v) / 10;
  return own === 'mm'
    ? lengthWithUnit(rounded, unit)
    : own === '°'
      ? `${rounded}°`.replace('-', '−')
      : String(rounded);
};

/** “+9 mm up”, “5 mm back”: how far and which way. */
export function byText(key: ControlKey, by: number, unit: LengthUnit): string {
  const way = CONTROLS[key].words[by < 0 ? 0 : 1];
  return key === 'stemFlip' ? way : `${amount(key, Math.abs(by), unit)} ${way}`;
}

/** “744 mm → 753 mm”; null where it was not measured. */
export function fromToText(bike: BikeSetup, key: ControlKey, by: number, unit: LengthUnit): string | null {
  const from = standsAt(bike, key);
  if (from === null) return null;
  if (key === 'stemFlip') return from + by > 0.5 ? 'turned over' : 'the right way up';
  return `${amount(key, from, unit)} → ${amount(key, from + by, unit)}`;
}

/** Where a line's controls stand on this bike and where they go; null where nothing moves or nothing was measured. */
export function fromToWords(bike: BikeSetup, moves: Moves): { from: string | null; to: string | null } {
  const known = (Object.entries(moves) as [ControlKey, number][]).flatMap(([key, by]) => {
    const at = standsAt(bike, key);
    return at === null || key === 'stemFlip' ? [] : [{ key, at, by }];
  });
  if (known.length === 0) return { from: null, to: null };
  const words = (to: boolean): string =>
    known
      .map(
        ({ key, at, by }) => `${CONTROLS[key].name.toLowerCase()} ${amount(key, at + (to ? by : 0), 'mm')}`,
      )
      .join(', ');
  return { from: words(false), to: words(true) };
}

/** A set of moves in a few words. */
export const movesText = (moves: Moves, unit: LengthUnit): string =>
  (Object.entries(moves) as [ControlKey, number][])
    .map(([key, by]) => `${CONTROLS[key].name.toLowerCase()} ${byText(key, by, unit)}`)
    .join(', ') || 'as it is';

/** A heading for a line: what a fitter would say across the room. */
export function lineTitle(key: string, moves: Moves, unit: LengthUnit, title: string | null = null): string {
  if (title) return title;
  const first = Object.entries(moves) as [ControlKey, number][];
  if (first.length === 0) return 'Nothing';
  const by = (k: ControlKey): number => moves[k] ?? 0;
  const mm = (v: number): string => lengthWithUnit(Math.round(Math.abs(v) * 10) / 10, unit);
  switch (key) {
    case 'saddleUp':
    case 'askSaddleLow':
    case 'askSaddleHigh':
      return `${by('saddleUp') > 0 ? 'Raise' : 'Lower'} the saddle ${mm(by('saddleUp'))}`;
    case 'saddleBack':
    case 'askSaddleForward':
    case 'askSaddleBack':
      return `Saddle ${by('saddleBack') > 0 ? 'back' : 'forward'} ${mm(by('saddleBack'))}`;
    case 'saddleTilt':
    case 'askNoseDown':
    case 'askNoseUp':
      return `Saddle’s nose ${Math.abs(by('saddleTilt'))}° ${by('saddleTilt') > 0 ? 'up' : 'down'}`;
    case 'crank':
      return `Cranks ${mm(by('crank'))} ${by('crank') < 0 ? 'shorter' : 'longer'}${by('saddleUp') ? `, saddle ${by('saddleUp') > 0 ? 'up' : 'down'} with them` : ''}`;
    case 'cleatBack':
    case 'cleatForward':
    case 'askCleatForward':
    case 'askCleatFarBack': {
      const [l, r] = [by('cleatBack.left'), by('cleatBack.right')];
      const way = (v: number): string => `${mm(v)} ${v > 0 ? 'back' : 'forward'}`;
      return l === r
        ? `Both cleats ${way(l)}`
        : `Cleats: ${[l && `left ${way(l)}`, r && `right ${way(r)}`].filter(Boolean).join(', ')}`;
    }
    case 'stance':
      return stanceByMm(moves, 'left') + stanceByMm(moves, 'right') > 0 ? 'Wider stance' : 'Narrower stance';
    case 'shim':
      return `A shim of ${mm(Object.values(moves)[0])}`;
    case 'saddleWidth':
      return 'Another saddle';
    case 'barRotation':
      return 'Bar turned to a smooth line';
    case 'barWidth':
      return `Bar ${by('barWidth') < 0 ? 'narrower' : 'wider'}`;
    default: {
      const words = movesText(moves, unit);
      return words.charAt(0).toUpperCase() + words.slice(1);
    }
  }
}
