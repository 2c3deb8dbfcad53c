/** Writes docs/worked-cases.md: the four demo riders' prescriptions with the reasoning behind each line. */
import { writeFileSync } from 'node:fs';
import { movesText } from '../app/components/moveText.ts';
import { cautionsFor, adviceFor } from '../core/plan/cautions.ts';
import { prescribe } from '../core/plan/prescribe.ts';
import { MEASURE_NAMES } from '../core/protocol/protocols.ts';
import { demoCase } from './plans/cases.ts';
import { STORIES } from './plans/stories.ts';

const round = (v: number): string => v.toFixed(0).replace('-', '−');

function chapter(id: keyof typeof STORIES): string {
  const c = demoCase(id);
  const plan = prescribe(c);
  const story = STORIES[id];
  const out = c.measures.filter((m) => m.verdict === 'low' || m.verdict === 'high');
  const unit = (u: '°' | 'mm'): string => (u === '°' ? '°' : ' mm');
  const lines = plan.lines.map((l, i) => {
    const reason = (story.lines as Record<string, string>)[l.key] ?? '';
    const f = l.forecast?.ok ? l.forecast.measures : [];
    const changed = f
      .filter((m) => m.verdictBefore === 'low' || m.verdictBefore === 'high')
      .map(
        (m) =>
          `${MEASURE_NAMES[m.key].toLowerCase()} ${round(m.before)} → ${round(m.after)} (${round(m.low)} to ${round(m.high)})`,
      );
    return `${i + 1}. **${movesText(l.moves, 'mm')}**. Why: ${l.why.join('; ')}.${changed.length ? ` Then: ${changed.join(', ')}.` : ''}${l.knockOn.length ? ` Carries over: ${l.knockOn.join('; ')}.` : ''}
   *Handbook*: ${reason}`;
  });
  return `## ${story.name}

${story.told}

Out in the film: ${out.length === 0 ? 'nothing' : out.map((m) => `${MEASURE_NAMES[m.key].toLowerCase()} ${round(m.value)}${unit(m.unit)} (${[m.band.low, m.band.high].map((v) => (v === null ? '…' : round(v))).join(' to ')})`).join('; ')}.

${lines.join('\n')}

${plan.open.length ? `Still out: ${plan.open.map((o) => `${MEASURE_NAMES[o.key].toLowerCase()} (${o.words})`).join('; ')}.\n\n` : ''}${adviceFor(c).length ? `Beside the bike: ${adviceFor(c).join(' ')}\n\n` : ''}Cautions: ${cautionsFor(
    c,
    plan,
  )
    .map((q) => q.words)
    .join(' ')}

${story.judged}
`;
}

const text = `# Worked cases: what the prescription says of the demo riders, and why

Made from the virtual riders at track level and the dossiers, with the demo parts bin (\`npm run plans\`). Figures are the application’s own;
what is said of the handbook and the judgement after each were written by hand and looked through line by line.

${(Object.keys(STORIES) as (keyof typeof STORIES)[]).map(chapter).join('\n')}`;
writeFileSync('docs/worked-cases.md', text);
console.log(text);
