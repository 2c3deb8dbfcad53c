import { UNMEASURED_PART, type Part, type PartKind } from '../../core/bike/parts.ts';
import { RECORD_VERSIONS } from '../../core/records/migrations.ts';
import type { PartsBin } from '../../core/records/types.ts';

let made = 0;
function part(
  kind: PartKind,
  name: string,
  { price, count, more }: { price: number; count: number; more: Partial<Part> },
): Part {
  made += 1;
  return {
    id: `demo-${made}`,
    kind,
    name,
    ...UNMEASURED_PART,
    count,
    price,
    ...more,
  };
}

/** The drawers of the Kiln Yard Fitting Room; makers and models are made up. */
export const DEMO_PARTS: PartsBin = {
  version: RECORD_VERSIONS.parts,
  removed: [],
  parts: [
    ...[70, 80, 90, 100, 110].map((lengthMm) =>
      part('stem', `Fennel ${lengthMm}`, { price: 38, count: 2, more: { lengthMm, angleDeg: -6 } }),
    ),
    ...[70, 90].map((lengthMm) =>
      part('stem', `Fennel rise ${lengthMm}`, { price: 42, count: 1, more: { lengthMm, angleDeg: -17 } }),
    ),
    ...[5, 10, 20].map((stackMm) =>
      part('spacer', `Spacer ${stackMm}`, { price: 3, count: 12, more: { stackMm } }),
    ),
    ...[400, 420, 440].map((widthMm) =>
      part('bar', `Brindle ${widthMm}`, { price: 64, count: 1, more: { widthMm, reachMm: 75, dropMm: 125 } }),
    ),
    ...[142, 148, 155, 160].map((widthMm) =>
      part('saddle', `Halm ${widthMm}`, { price: 92, count: 1, more: { widthMm, lengthMm: 270 } }),
    ),
    part('saddle', 'Stub 132', { price: 118, count: 1, more: { widthMm: 132, lengthMm: 240 } }),
    ...[160, 165, 170].map((lengthMm) =>
      part('crank', `Ostler ${lengthMm}`, { price: 145, count: 1, more: { lengthMm } }),
    ),
    part('pedal', 'Quern two-bolt', { price: 79, count: 2, more: { lengthMm: 53, stackMm: 11 } }),
    part('pedal', 'Quern two-bolt, long axle', { price: 84, count: 1, more: { lengthMm: 57, stackMm: 11 } }),
    part('washer', 'Pedal washer', { price: 1, count: 20, more: { stackMm: 1.5 } }),
    part('wedge', 'Forefoot wedge', { price: 4, count: 16, more: { angleDeg: 1.5 } }),
    ...[2, 3].map((stackMm) =>
      part('shim', `Cleat shim ${stackMm}`, { price: 6, count: 8, more: { stackMm } }),
    ),
  ],
};
