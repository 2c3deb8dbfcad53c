/** npm run accuracy: measures tracking and reading against the virtual rider's truth and writes docs/accuracy.md. */
import { writeFileSync } from 'node:fs';
import { ANGLE_KEYS, ANGLE_NAMES } from '../core/kinematics/angles.ts';
import { SIDE_LANDMARKS } from '../core/landmarks/landmarks.ts';
import { demoTracks } from './accuracy/demo.ts';
import { coverage } from './accuracy/coverage.ts';
import { calledReal } from './closedLoop/many.ts';
import { coverageFrontal, FRONTAL_FIGURES } from './accuracy/coverageFrontal.ts';
import { compareWithTruth, frontalAccuracy, trackRendered, type Accuracy } from './accuracy/measure.ts';
import { BARE, FRONTAL, MORE, ROOMS, VARIANTS } from './accuracy/variants.ts';

const results: [string, Accuracy][] = [];
for (const id of ['idris', 'pilar', 'juno']) {
  const { member, tracks } = demoTracks(id);
  results.push([`demo: ${id}`, compareWithTruth(member, tracks)]);
}
for (const v of [...VARIANTS, ...MORE, ...ROOMS, ...BARE]) {
  results.push([v.name, compareWithTruth(v.member, trackRendered(v.member, v.frames, v.room), v.room)]);
  console.log(v.name);
}

const ahead = FRONTAL.map((v) => {
  console.log(v.name);
  return [v.name, frontalAccuracy(v)] as const;
});

const held = coverage(300, 5);
const ROWS = [
  ['as assumed', held],
  ['stickers 1.5 times as far off', coverage(300, 5, { stickers: 1.5 })],
  ['without sliding skin', coverage(300, 5, { skin: false })],
  ['stickers 1.5 times as far off, without sliding skin', coverage(300, 5, { stickers: 1.5, skin: false })],
] as const;
const heldAhead = coverageFrontal(300, 6);

const row = (cells: string[]): string => `| ${cells.join(' | ')} |`;
const table = (head: string[], rows: string[][]): string =>
  [row(head), row(head.map(() => '---')), ...rows.map(row)].join('\n');

const pixels = table(
  ['film', ...SIDE_LANDMARKS],
  results.map(([name, a]) => [
    name,
    ...SIDE_LANDMARKS.map((k) => {
      const e = a.landmarks[k];
      return `${e.medianPx.toFixed(2)} / ${e.p95Px.toFixed(2)}${e.lostFrames ? ` (${e.lostFrames} lost)` : ''}`;
    }),
  ]),
);
const angles = table(
  ['film', ...ANGLE_KEYS.map((k) => ANGLE_NAMES[k]), 'crank centre, px', 'cadence, %'],
  results.map(([name, a]) => [
    name,
    ...ANGLE_KEYS.map((k) => a.angleRmsDeg[k].toFixed(2)),
    a.crankCentrePx.toFixed(2),
    a.cadencePercent.toFixed(3),
  ]),
);

const signed = (v: number, digits: number): string =>
  `${v > 0 ? '+' : ''}${v.toFixed(digits)}`.replace('-', '−');
const fronts = table(
  ['film', 'points, px', 'crank angle', 'path width, L / R', 'knee over foot, L / R', 'stance', 'pelvis'],
  ahead.map(([name, a]) => [
    name,
    `${a.medianPx.toFixed(2)} / ${a.p95Px.toFixed(2)}${a.lostFrames ? ` (${a.lostFrames} lost)` : ''}`,
    `${signed(a.crankAngleDeg, 1)}°`,
    a.pathMm.map((v) => signed(v, 1)).join(' / '),
    a.kneeOverFootMm.map((v) => signed(v, 1)).join(' / '),
    signed(a.stanceMm, 1),
    `${signed(a.pelvisDeg, 1)}°`,
  ]),
);

const percent = (share: number): string => `${(100 * share).toFixed(1)} %`;
const intervals = table(
  ['angle', 'truth within the interval', 'half-width, mean', 'root mean square error'],
  ANGLE_KEYS.map((k) => {
    const a = held.byAngle[k];
    return [ANGLE_NAMES[k], percent(a.held), `${a.halfWidthDeg.toFixed(1)}°`, `${a.rmsDeg.toFixed(1)}°`];
  }),
);

const assumed = table(
  ['errors', 'truth within the interval', 'goal'],
  [
    ...ROWS.map(([name, c], i) => [name, percent(c.held), i === 0 ? '93–97 %' : '']),
    [
      'untouched bike filmed again, rider off and on: called a real change',
      percent(calledReal(120, 3)),
      '3–7 %',
    ],
    ['the same, stickers 1.5 times as far off (left on)', percent(calledReal(60, 4, 1.5)), ''],
  ],
);

const aheadIntervals = table(
  ['figure', 'truth within the interval', 'half-width, mean', 'root mean square error'],
  FRONTAL_FIGURES.map((k) => {
    const f = heldAhead.byFigure[k];
    const unit = k.startsWith('pelvis') || k.startsWith('shoulders') ? '°' : ' mm';
    return [k, percent(f.held), `${f.halfWidth.toFixed(1)}${unit}`, `${f.rms.toFixed(1)}${unit}`];
  }),
);

writeFileSync(
  'docs/accuracy.md',
  `# Accuracy against the virtual rider

Made by \`npm run accuracy\`. The virtual rider's joints are known exactly; its films are rendered, tracked from the truth on
one frame, and read. The demo films were encoded and decoded; the others are tracked as rendered (4:2:0 planes, noise and
blur as named). Pixels at 1280×720, about 2.55 mm each. Maren's demo film is tracked in the browser by the interface tests,
to the same bounds.

## Landmarks: median / 95th percentile of the distance from the truth, px

${pixels}

A tripod that trembles or is knocked moves every point alike: it is measured against where the points then are, and angles feel nothing
of it. A doubled frame shows an earlier moment under a new stamp.

Lost frames are said to be lost and bridged in the reading; no landmark with a sticker follows a wrong thing on any frame. Without
one, plain cloth over the hip can't be followed (its looks are the same all about), an elbow or a wrist can. A frame to mark shows every
sticker: marked where an arm covers the knee, the arm is followed, 17 px beside.

## Angles: root mean square error over the counted strokes, degrees

${angles}

What is left in hip, shoulder and elbow is perspective: hip, shoulder and hand stand at different distances from the camera
(5 m in these films), and one picture cannot tell. The camera's yaw is
taken out from the apparent heights of the two wheels; what is left of it at 4° is the shift between the bike's plane and the
foot's.

## From the front and the rear: read less true, mm and degrees

${fronts}

720 × 720 pixels, about 2.1 mm each. A camera that is not straight ahead takes the knee's way to and fro for a way across: at 2° of
yaw some 6 mm of path width, which the interval holds (its picture's share is 1.5° of yaw).

## Without stickers

The films named “no sticker” follow those joints by the look of the spot alone. What has looks of its own (shoulder, elbow, wrist)
is held below a pixel for two strokes, a bare knee drifts by some pixels, plain cloth over the hip slides off at once. It is said while
tracking; the pose model, asked every so many frames, holds them (see decisions).

## The 95 % interval

${held.riders} random riders, each with every sticker some 5 mm beside its bone (and turning with its limb), 0.1 to 0.5 px of noise,
a camera 3.5 to 6 m away, up to 5° off square and a degree off level, wheels pointed out to half a pixel, 30, 60 or 120 frames/s,
either side. In ${percent(held.held)} of ${held.cases} cases (least, most and mean of each angle) the absolute interval holds the truth.

${intervals}

The same films with other errors than the interval takes for granted, and bikes that nobody touched:

${assumed}

The same for ${heldAhead.riders} riders from ahead and behind, the camera some 1.5° (SD) off straight, stickers as above:
${percent(heldAhead.held)} of ${heldAhead.cases} cases.

${aheadIntervals}
`,
);
