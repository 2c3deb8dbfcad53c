/**
 * npm run films -- [number]: takes films as rooms and phones make them the whole way, from the rendered picture over the proposal
 * to the angles, and names the stickers of so many random films (200); writes docs/films.md.
 */
import { writeFileSync } from 'node:fs';
import { ANGLE_KEYS, ANGLE_NAMES } from '../core/kinematics/angles.ts';
import { SIDE_LANDMARKS } from '../core/landmarks/landmarks.ts';
import { HARD } from './accuracy/hardFilms.ts';
import { compareWithTruth } from './accuracy/measure.ts';
import { followed, judged, judgeNames, judgeWheels, rendered, surveyed } from './films/pipeline.ts';
import { randomFilm } from './films/randomFilms.ts';

const many = Number(process.argv[2] ?? 200);
const rows: string[] = [];
const only = process.argv[3]?.split(',').map(Number);
for (const [n, film] of HARD.entries()) {
  if (only && !only.includes(n)) continue;
  const r = rendered(film);
  const found = surveyed(r);
  const names = judgeNames(film, found.named);
  const verdict = judged(r, found);
  const wheels = judgeWheels(film, found.wheels);
  const told = verdict.points.map((p) => p.key).join(', ');
  let way = '— | —';
  if (found.named) {
    const a = compareWithTruth(film.member, followed(r, found.named), film.room);
    const lost = Math.max(...SIDE_LANDMARKS.map((k) => a.landmarks[k].lostFrames)) / film.frames;
    const [key, worst] = ANGLE_KEYS.map((k) => [k, a.angleRmsDeg[k]] as const).sort((p, q) => q[1] - p[1])[0];
    way = `${(100 * lost).toFixed(1)} % | ${worst.toFixed(2)}° ${ANGLE_NAMES[key].toLowerCase()}`;
  }
  rows.push(
    `| ${film.name} | ${names.right.length} / ${names.asked.length} / ${names.wrong.length} | ${wheels.hubPx.toFixed(1)} / ${wheels.tyrePx.toFixed(1)} | ${way} | ${verdict.worth}${told ? `: ${told}` : ''} |`,
  );
  console.log(rows.at(-1));
}

const count = { right: 0, asked: 0, wrong: 0, whole: 0, none: 0, facing: 0, hub: 0, tyre: 0 };
for (let seed = 0; seed < many; seed += 1) {
  const film = randomFilm(seed);
  const found = surveyed(rendered(film, film.member.film.framesPerS > 100 ? 2 : 1));
  const at = found.named && {
    ...found.named,
    frame: found.named.frame * (film.member.film.framesPerS > 100 ? 2 : 1),
  };
  const names = judgeNames(film, at);
  const wheels = judgeWheels(film, found.wheels);
  count.right += names.right.length;
  count.asked += names.asked.length;
  count.wrong += names.wrong.length;
  count.whole += Number(names.right.length === SIDE_LANDMARKS.length);
  count.none += Number(!found.named);
  count.facing += Number(names.facingRight);
  count.hub += Number(wheels.hubPx <= 1);
  count.tyre += Number(wheels.tyrePx <= 2);
  if (names.right.length < SIDE_LANDMARKS.length || wheels.hubPx > 1 || wheels.tyrePx > 2)
    console.log(
      `${film.name}: asked ${names.asked.join()} wrong ${names.wrong.join()} hub ${wheels.hubPx.toFixed(1)} tyre ${wheels.tyrePx.toFixed(1)}`,
    );
  if (seed % 25 === 24) console.log(seed + 1, JSON.stringify(count));
}
const percent = (n: number, of: number): string => `${((100 * n) / Math.max(1, of)).toFixed(1)} %`;
writeFileSync(
  'docs/films.md',
  `# Films as rooms and phones make them

Made by \`npm run films\`. Each film is rendered with its fault, looked at as a whole without a word from anybody, followed from what was
proposed, and read; where the proposal asks, the answer is the truth. Names: on their own sticker and called sure / asked about / called
sure on another one. Wheels: the worse hub and the worst tyre's end, px. Lost: the worst landmark's share of frames. Angle: the worst root
mean square error over the counted strokes (hip, shoulder and elbow hold some 0.3° of perspective, see [accuracy](accuracy.md)).

| film | names | wheels, px | lost | worst angle | verdict |
| --- | --- | --- | --- | --- | --- |
${rows.join('\n')}

## ${many} random films

Posture, size, colours, clothes, side, noise, shutter and frame rate drawn at random, 1.2 s each.

| what | share |
| --- | --- |
| names right without a hand | ${percent(count.right, many * SIDE_LANDMARKS.length)} |
| names asked about | ${percent(count.asked, many * SIDE_LANDMARKS.length)} |
| wrong names called sure | ${percent(count.wrong, many * SIDE_LANDMARKS.length)} |
| films with all eight right | ${percent(count.whole, many)} |
| films on which no rider was found | ${percent(count.none, many)} |
| way the bike points | ${percent(count.facing, many)} |
| both hubs within 1 px | ${percent(count.hub, many)} |
| all four tyre ends within 2 px | ${percent(count.tyre, many)} |
`,
);
