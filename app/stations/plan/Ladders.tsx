import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import {
  laddersFor,
  LADDERS,
  standOf,
  type Ladder,
  type LadderKey,
  type RungWord,
} from '../../../core/suspects/ladders.ts';
import type { RegionKey } from '../../../core/intake/intake.ts';

const RUNG_WORDS: Record<RungWord, string> = {
  helped: 'helped',
  same: 'made no difference',
  worse: 'made it worse: undone',
  'left-out': 'left out',
};

/** The guided sequences: one rung at a time, cheap first, each with what came of it. */
export function Ladders({
  regions,
  answers,
  onSay,
}: {
  /** What the rider complains of. */
  regions: readonly RegionKey[];
  answers: Partial<Record<LadderKey, RungWord[]>>;
  onSay: (key: LadderKey, words: RungWord[]) => void;
}) {
  const ladders = laddersFor(regions);
  const shown = LADDERS.filter((l) => ladders.includes(l) || (answers[l.key]?.length ?? 0) > 0);
  if (shown.length === 0)
    return (
      <Typography color="textSecondary">
        No guided sequence is asked for: they are for numb feet, the outer edge of the foot, the knee’s sides,
        and the saddle.
      </Typography>
    );
  return (
    <>
      {shown.map((l) => (
        <Steps key={l.key} ladder={l} answers={answers[l.key] ?? []} onSay={(words) => onSay(l.key, words)} />
      ))}
    </>
  );
}

function Steps({
  ladder,
  answers,
  onSay,
}: {
  ladder: Ladder;
  answers: readonly RungWord[];
  onSay: (words: RungWord[]) => void;
}) {
  const stand = standOf(ladder, answers);
  return (
    <Box component="section" aria-label={`Sequence: ${ladder.name}`} sx={{ mb: 3 }}>
      <Typography variant="h3">{ladder.name}</Typography>
      <Box component="ol" sx={{ m: 0, pl: 2.5, '& li': { py: 0.5 } }}>
        {ladder.rungs.map((r, i) => {
          const now = stand.next === i;
          const over = stand.next === null && i >= answers.length;
          return (
            <Box
              component="li"
              key={r.what}
              sx={{ color: over ? 'text.secondary' : 'text.primary' }}
              aria-current={now ? 'step' : undefined}
            >
              <Typography component="span" sx={{ fontWeight: now ? 700 : 500 }}>
                {r.what}
              </Typography>
              <Typography component="span" color="textSecondary">
                {' '}
                {r.free ? 'free' : 'a part'}
                {answers[i] && ` · ${RUNG_WORDS[answers[i]]}`}
              </Typography>
              {now && (
                <Box>
                  <Typography>{r.how}</Typography>
                  <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 0.5 }}>
                    {(
                      [
                        ['helped', 'Helped'],
                        ['same', 'The same'],
                        ['worse', 'Worse'],
                        ['left-out', 'Leave out'],
                      ] as const
                    ).map(([word, label]) => (
                      <Button
                        key={word}
                        size="small"
                        variant="outlined"
                        onClick={() => onSay([...answers, word])}
                      >
                        {label}
                      </Button>
                    ))}
                  </Box>
                </Box>
              )}
            </Box>
          );
        })}
      </Box>
      {stand.helped !== null && (
        <Typography sx={{ mt: 0.5 }}>
          <strong>{ladder.rungs[stand.helped].what}</strong> helped: stay there, and ask again after a few
          rides.
        </Typography>
      )}
      {stand.helped === null && stand.next === null && (
        <Typography sx={{ mt: 0.5 }}>Nothing of this helped: refer to a clinician.</Typography>
      )}
      {answers.length > 0 && (
        <Button size="small" onClick={() => onSay(answers.slice(0, -1))}>
          One back
        </Button>
      )}
    </Box>
  );
}
