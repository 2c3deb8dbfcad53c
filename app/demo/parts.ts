import { UNMEASURED_PART, type Part, type PartKind } from '../../core/bike/parts.ts';
import { RECORD_VERSIONS } from '../../core/records/migrations.ts';
import type { PartsBin } from '../../core/records/types.ts';

let made = 0;
function part(kind: PartKind, name: string, price: number, count: number, more: Partial<Part>): Part {
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
      part('stem', `Fennel ${lengthMm}`, 38, 2, { lengthMm, angleDeg: -6 }),
    ),
    ...[70, 90].map((lengthMm) =>
      part('stem', `Fennel rise ${lengthMm}`, 42, 1, { lengthMm, angleDeg: -17 }),
    ),
    ...[5, 10, 20].map((stackMm) => part('spacer', `Spacer ${stackMm}`, 3, 12, { stackMm })),
    ...[400, 420, 440].map((widthMm) =>
      part('bar', `Brindle ${widthMm}`, 64, 1, { widthMm, reachMm: 75, dropMm: 125 }),
    ),
    ...[142, 148, 155, 160].map((widthMm) =>
      part('saddle', `Halm ${widthMm}`, 92, 1, { widthMm, lengthMm: 270 }),
    ),
    part('saddle', 'Stub 132', 118, 1, { widthMm: 132, lengthMm: 240 }),
    ...[160, 165, 170].map((lengthMm) => part('crank', `Ostler ${lengthMm}`, 145, 1, { lengthMm })),
    part('pedal', 'Quern two-bolt', 79, 2, { lengthMm: 53, stackMm: 11 }),
    part('pedal', 'Quern two-bolt, long axle', 84, 1, { lengthMm: 57, stackMm: 11 }),
    part('washer', 'Pedal washer', 1, 20, { stackMm: 1.5 }),
    part('wedge', 'Forefoot wedge', 4, 16, { angleDeg: 1.5 }),
    ...[2, 3].map((stackMm) => part('shim', `Cleat shim ${stackMm}`, 6, 8, { stackMm })),
  ],
};
