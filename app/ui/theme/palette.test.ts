import { describe, expect, it } from 'vitest';
import { paperColours, sharpColours } from './paperColours';

type Rgb = readonly [number, number, number];

const linear = (hex: string): Rgb => {
  const at = (k: number): number => {
    const v = parseInt(hex.slice(1 + 2 * k, 3 + 2 * k), 16) / 255;
    return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
  };
  return [at(0), at(1), at(2)];
};

/** How a dichromat sees a colour: Viénot, Brettel and Mollon (1999) for red and green, Machado et al. (2009) for blue; linear RGB. */
const SEEN: Record<'normal' | 'protan' | 'deutan' | 'tritan', readonly Rgb[]> = {
  normal: [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ],
  protan: [
    [0.11238, 0.88762, 0],
    [0.11238, 0.88762, 0],
    [0.00401, -0.00401, 1],
  ],
  deutan: [
    [0.29275, 0.70725, 0],
    [0.29275, 0.70725, 0],
    [-0.02234, 0.02234, 1],
  ],
  tritan: [
    [1.255528, -0.076749, -0.178779],
    [-0.078411, 0.930809, 0.147602],
    [0.004733, 0.691367, 0.3039],
  ],
};

const through = (eye: keyof typeof SEEN, c: Rgb): Rgb =>
  SEEN[eye].map((row) =>
    Math.min(1, Math.max(0, row[0] * c[0] + row[1] * c[1] + row[2] * c[2])),
  ) as unknown as Rgb;

/** Ottosson's OKLab: equal distances look about equally far apart; 0.02 is just noticeable. */
function okLab([r, g, b]: Rgb): Rgb {
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s,
  ];
}

const apart = (eye: keyof typeof SEEN, a: string, b: string): number => {
  const [p, q] = [a, b].map((hex) => okLab(through(eye, linear(hex))));
  return Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);
};

const luminance = (hex: string): number => {
  const [r, g, b] = linear(hex);
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
};
const contrast = (a: string, b: string): number => {
  const [x, y] = [luminance(a), luminance(b)].sort((p, q) => q - p);
  return (x + 0.05) / (y + 0.05);
};

describe.each([
  ['light', paperColours(false), 4.5],
  ['dark', paperColours(true), 4.5],
  ['light, sharp', sharpColours(false), 7],
  ['dark, sharp', sharpColours(true), 7],
] as const)('the palette, %s', (_, c, least) => {
  const eyes = Object.keys(SEEN) as (keyof typeof SEEN)[];
  it.each(eyes)('what stands beside each other is told apart by %s eyes', (eye) => {
    // Measured and predicted curve, curve and ground, band and ground, accent and text: three times what is just noticeable.
    for (const [a, b] of [
      [c.measured, c.predicted],
      [c.measured, c.background],
      [c.predicted, c.background],
      [c.measured, c.band],
      [c.predicted, c.band],
      [c.text, c.measured],
    ])
      expect(apart(eye, a, b), `${a} ${b}`).toBeGreaterThan(0.06);
    expect(apart(eye, c.band, c.background)).toBeGreaterThan(0.03);
  });
  it('text and lines keep their contrast to the ground', () => {
    for (const ink of [c.text, c.quiet, c.accent]) expect(contrast(ink, c.background)).toBeGreaterThan(least);
    for (const ink of [c.warning, c.error]) expect(contrast(ink, c.background)).toBeGreaterThan(4.5);
    for (const line of [c.measured, c.predicted]) expect(contrast(line, c.band)).toBeGreaterThan(3);
  });
});
