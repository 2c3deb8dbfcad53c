/** Writes docs/worked-cases.md: the four demo riders' prescriptions with the reasoning behind each line. */
import { writeFileSync } from 'node:fs';
import { lineTitle } from '../app/ui/words/moveText.ts';
import { cautionsFor, adviceFor } from '../core/plan/cautions.ts';
import { roundLines, type PlanLine } from '../core/plan/terms/plan.ts';
import { prescribe } from '../core/plan/prescribe.ts';
import { measureText } from '../core/protocol/convention.ts';
import { isOut } from '../core/protocol/judge.ts';
import { MEASURE_NAMES } from '../core/protocol/protocols.ts';
import { demoCase } from './plans/cases.ts';
import { STORIES } from './plans/stories.ts';

const round = (v: number): string => v.toFixed(0).replace('-', '−');
const list = (title: string, items: readonly string[]): string =>
  items.length ? `${title}: ${items.join(' ')}\n\n` : '';

function chapter(id: keyof typeof STORIES): string {
  const c = demoCase(id);
  const plan = prescribe(c);
  const story = STORIES[id];
  const out = c.measures.filter((m) => isOut(m.verdict));
  const title = (l: PlanLine): string =>
    lineTitle(l.key, l.when === 'later' ? l.whole : l.moves, 'mm', l.title);
  const line = (l: PlanLine, i: number): string => {
    const reason = (story.lines as Record<string, string>)[l.key] ?? '';
    const predicted = l.predicted
      .filter((f) => Math.abs(f.after - f.before) >= 1)
      .slice(0, 4)
      .map(
        (f) =>
          `${MEASURE_NAMES[f.key].toLowerCase()} ${round(f.before)} → ${round(f.after)} (${round(f.low)} to ${round(f.high)})`,
      );
    return `${i + 1}. **${title(l)}** (${l.probability}). Why: ${l.why.join('; ')}.${predicted.length ? ` Predicted: ${predicted.join(', ')}.` : ''}${l.knockOn.length ? ` Knock-on: ${l.knockOn.join('; ')}.` : ''} Then check: ${l.check}.${reason ? `\n   *Handbook*: ${reason}` : ''}`;
  };
  const part = (name: string, lines: readonly PlanLine[]): string =>
    lines.length ? `### ${name}\n\n${lines.map(line).join('\n')}\n\n` : '';
  return `## ${story.name}

${story.complaint}

Out in the film: ${out.length === 0 ? 'nothing' : out.map((m) => measureText(m)).join('; ')}.

${part('Now', plan.now)}${part('Try and ask', plan.try)}${plan.ask.length ? `### Ask first\n\n${plan.ask.map((a) => `- ${a.question} (${a.because})`).join('\n')}\n\n` : ''}${plan.later.length ? `### After the next film\n\n${plan.later.map((l) => `- ${l.further ? 'Further: ' : ''}${title(l)} (${l.probability})`).join('\n')}\n\n` : ''}${roundLines(plan).length === 0 ? 'Nothing is moved.\n\n' : ''}${list('Said', [...plan.conflicts, ...plan.heldBack, ...plan.seenThrough, ...plan.noted])}${plan.open.length ? `Still out: ${plan.open.map((o) => `${MEASURE_NAMES[o.key].toLowerCase()} (${o.words})`).join('; ')}.\n\n` : ''}${list(
    'Off the bike',
    adviceFor(c).map((a) => a.words),
  )}${list(
    'Cautions',
    cautionsFor(c, plan).map((q) => q.words),
  )}${story.judged}
`;
}

const text = `# Worked cases: what the prescription says of the demo riders, and why

Made from the virtual riders at track level and the dossiers, with the demo parts (\`npm run plans\`). Figures are the application’s own;
what is said of the handbook and the judgement after each were written by hand and looked through line by line.

${(Object.keys(STORIES) as (keyof typeof STORIES)[]).map(chapter).join('\n')}`;
writeFileSync('docs/worked-cases.md', text);
console.log(text);
