/** Writes docs/closed-loop.md: plans applied to random virtual riders and filmed again, by type of misfit. */
import { writeFileSync } from 'node:fs';
import { manyLoops, summed, type Sum } from './closedLoop/many.ts';
import { MISFITS } from './closedLoop/riders.ts';

const riders = Number(process.argv[2] ?? 300);
const all = manyLoops(riders, 7);
const share = (a: number, b: number): string => (b === 0 ? '–' : `${((100 * a) / b).toFixed(0)} %`);
const row = (name: string, s: Sum): string =>
  `| ${name} | ${s.riders} | ${s.found} | ${share(s.notOut[0], s.found)} | ${share(s.notOut[1], s.found)} | ${share(s.trueIn[0], s.found)} | ${share(s.trueIn[1], s.found)} | ${s.pushedOut} | ${s.fewest === 0 ? '–' : (s.touched / s.fewest).toFixed(2)} | ${share(s.held, s.foretold)} |`;
const total = summed(all);
const widths = all.flatMap((o) => (o.width ? [o.width] : []));
const mean = (list: readonly number[]): number => list.reduce((s, v) => s + v, 0) / list.length;
const changed = all.filter((o) => o.kappaMiss !== null && o.touched > 0);
const text = `# Closed loop: the plan applied to riders whose habits nobody knows

${riders} random riders, each well fitted at first, then made not to fit by moving the bike under them (\`scripts/closedLoop\`). How they answer, the
share κ that the foot takes and ρ that the back takes, is drawn anew for each and known to the simulation alone (\`sim/answer.ts\`, a forward
model of its own, by bisection). Both sides are filmed at track level with stickers beside their bones (SD 5 mm) and noise; the
prescription is made from those films, applied whole, and filmed again; twice. Written by \`npm run closed-loop\`.

A finding is a film measure beyond its band by more than its uncertainty, or a setting that the rules find wrong (cleats apart, a cleat
ahead of the head, a stance uneven about the middle, legs apart where the table shows a difference). *Put right* is judged by the next
film as the finding was: no longer out. *Truly inside* is stricter: what the rider really does lies inside the band, with no allowance.

| misfit | riders | findings | put right, 1st round | 2nd round | truly inside, 1st | 2nd | pushed out | touched / fewest | 95 % interval holds the truth |
|---|---|---|---|---|---|---|---|---|---|
${MISFITS.map((m) => row(m, summed(all.filter((o) => o.misfit === m)))).join('\n')}
${row('**all**', total)}

- *Touched / fewest*: things the first plan touches (a pair of cleats is one, a stem with its flip is one) against the fewest that put it
  right, found with the simulation's own knowledge.
- *Pushed out*: measures that lay inside their band before, by film and in truth, and are out by the film after the first round.
- Leg-length differences are treated by half a round, never all at once: the rest stays by rule.
- What stance does to the knee's path has no model: its misfit is judged by the setting.

## What the second film teaches

From the first film and the next, κ and ρ are weighed anew (\`core/model/learn.ts\`). For the same further change (saddle +10 mm, stem
−20 mm) the part of the interval that comes from the rider's habits, knee and back together, is on the mean ${mean(widths.map((w) => w.usual)).toFixed(1)}° wide with the usual
habits and ${mean(widths.map((w) => w.learned)).toFixed(1)}° with the learned ones. κ itself is missed by ${mean(changed.map((o) => o.kappaMiss!.usual)).toFixed(2)} before and by ${mean(changed.map((o) => o.kappaMiss!.learned)).toFixed(2)} after one re-film, over the
${changed.length} riders on whose bike something was moved.
`;
writeFileSync('docs/closed-loop.md', text);
console.log(text);
