/**
 * npm run films -- [number] [hard | random]: takes films as rooms and phones make them the whole way, from the rendered picture over the
 * proposal to the angles, and names the stickers of so many random films (200); writes docs/films.md. What is done already lies in
 * test-results and is not done again: it can be broken off and gone on with, and both halves can run side by side.
 */
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { ANGLE_KEYS, ANGLE_NAMES } from '../core/kinematics/angles.ts';
import { SIDE_LANDMARKS, type SideLandmark } from '../core/landmarks/landmarks.ts';
import { HARD, type HardFilm } from './accuracy/hardFilms.ts';
import { compareWithTruth } from './accuracy/measure.ts';
import { followed, judged, judgeNames, judgeWheels, namedOn, rendered, surveyed } from './films/pipeline.ts';
import { frameTruth } from '../sim/render/film.ts';
import { shownUnder } from '../sim/render/strap.ts';
import { randomFilm } from './films/randomFilms.ts';

const many = Number(process.argv[2] ?? 200);
const half = process.argv[3] ?? 'both';
mkdirSync('test-results', { recursive: true });

interface Named {
  right: number;
  unsure: number;
  wrong: number;
  none: boolean;
  facing: boolean;
  hubPx: number | null;
  tyrePx: number | null;
}

/** Results by film, kept from run to run. */
function kept<T>(name: string): { of: Record<string, T>; keep: (key: string, value: T) => void } {
  const file = `test-results/${name}.json`;
  const of = existsSync(file) ? (JSON.parse(readFileSync(file, 'utf8')) as Record<string, T>) : {};
  return {
    of,
    keep(key, value) {
      of[key] = value;
      writeFileSync(file, JSON.stringify(of));
    },
  };
}

/** On which frames a strap hides more than half of the sticker under it. */
function hiddenOn({ member: { scene, film }, frames }: HardFilm): boolean[] {
  const { strap, look, camera } = scene;
  return Array.from({ length: frames }, (_, i) => {
    if (!strap) return false;
    const { thetaDeg, joints } = frameTruth(scene, film, i);
    return shownUnder(strap, thetaDeg, joints[strap.over], look.stickerRadiusMm / camera.mmPerPx) < 0.5;
  });
}

/** One film the whole way, as a row of the table. */
function rowOf(film: HardFilm): string {
  const r = rendered(film);
  const found = surveyed(r);
  const names = judgeNames(film, found.named);
  const verdict = judged(r, found);
  const wheels = judgeWheels(film, found.wheels);
  const points = verdict.points.map((p) => p.key).join(', ');
  let way = '— | —';
  if (found.named) {
    const tracks = followed(r, found.named);
    const a = compareWithTruth(film.member, tracks, film.room);
    const hidden = hiddenOn(film);
    const share = (k: SideLandmark): number => {
      if (k !== film.member.scene.strap?.over) return a.landmarks[k].lostFrames / film.frames;
      const seen = hidden.flatMap((is, i) => (is ? [] : [i]));
      return seen.filter((i) => Number.isNaN(tracks.landmarks[k].xPx[i])).length / seen.length;
    };
    const lost = Math.max(...SIDE_LANDMARKS.map(share));
    const [key, worst] = ANGLE_KEYS.map((k) => [k, a.angleRmsDeg[k]] as const).sort((p, q) => q[1] - p[1])[0];
    way = `${(100 * lost).toFixed(1)} % | ${worst.toFixed(2)}° ${ANGLE_NAMES[key].toLowerCase()}`;
  }
  return `| ${film.name} | ${names.right.length} / ${names.unsure.length} / ${names.wrong.length} | ${wheels.hubPx.toFixed(1)} / ${wheels.tyrePx.toFixed(1)} | ${way} | ${verdict.worth}${points ? `: ${points}` : ''} |`;
}

/** What is found on one random film. */
function resultOn(seed: number): Named {
  const film = randomFilm(seed);
  const { found, names } = namedOn(film);
  const { hubPx, tyrePx } = judgeWheels(film, found.wheels);
  const finite = (v: number): number | null => (Number.isFinite(v) ? v : null);
  return {
    right: names.right.length,
    unsure: names.unsure.length,
    wrong: names.wrong.length,
    none: !found.named,
    facing: names.facingRight,
    hubPx: finite(hubPx),
    tyrePx: finite(tyrePx),
  };
}

const rows = kept<string>('films-hard');
const named = kept<Named>('films-random');
if (half !== 'random')
  for (const film of HARD) {
    if (!rows.of[film.name]) rows.keep(film.name, rowOf(film));
    console.log(rows.of[film.name]);
  }
if (half !== 'hard')
  for (let seed = 0; seed < many; seed += 1) {
    if (!named.of[seed]) named.keep(`${seed}`, resultOn(seed));
    const n = named.of[seed];
    if (n.right < SIDE_LANDMARKS.length || !(n.hubPx !== null && n.hubPx <= 1 && n.tyrePx! <= 2))
      console.log(seed, JSON.stringify(n));
  }

const all = Object.values(named.of);
const percent = (n: number, of: number): string => `${((100 * n) / Math.max(1, of)).toFixed(1)} %`;
const films = (is: (n: Named) => boolean): string => percent(all.filter(is).length, all.length);
const names = (of: (n: Named) => number): string =>
  percent(
    all.reduce((s, n) => s + of(n), 0),
    all.length * SIDE_LANDMARKS.length,
  );
writeFileSync(
  'docs/films.md',
  `# Films as rooms and phones make them

Made by \`npm run films\`. Each film is rendered with its fault, looked at as a whole without a word from anybody, followed from what was
proposed, and read; where the proposal asks, the answer is the truth. Names: on their own sticker and called sure / asked about / called
sure on another one. Wheels: the worse hub and the worst tyre's end, px. Lost: the worst landmark's share of the frames on which
at least half of its sticker is seen, pictures that are written twice apart. Angle: the worst root mean square error over the counted strokes (hip, shoulder and elbow hold some 0.3° of
perspective, see [accuracy](accuracy.md)).

| film | names | wheels, px | lost | worst angle | verdict |
| --- | --- | --- | --- | --- | --- |
${HARD.flatMap((h) => rows.of[h.name] ?? []).join('\n')}

A knee of which a strap hides two thirds on each turn is lost there, and bridged.

## ${all.length} random films

Posture, size, colours, clothes, side, noise, shutter and frame rate drawn at random, 1.2 s each.

| what | share |
| --- | --- |
| names right without a hand | ${names((n) => n.right)} |
| names asked about | ${names((n) => n.unsure)} |
| wrong names called sure | ${names((n) => n.wrong)} |
| films with all eight right | ${films((n) => n.right === SIDE_LANDMARKS.length)} |
| films on which no rider was found | ${films((n) => n.none)} |
| way the bike points | ${films((n) => n.facing)} |
| both hubs within 1 px | ${films((n) => n.hubPx !== null && n.hubPx <= 1)} |
| all four tyre ends within 2 px | ${films((n) => n.tyrePx !== null && n.tyrePx <= 2)} |
`,
);
