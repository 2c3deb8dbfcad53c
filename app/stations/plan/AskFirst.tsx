import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { Link as RouterLink } from 'react-router';
import type { Ask } from '../../../core/plan/terms/plan.ts';
import { QUESTIONS, type Answers, type QuestionKey } from '../../../core/plan/terms/questions.ts';
import { Choice } from '../../ui/fields/Choice';

/** Questions that must be answered before the plan goes further; each is answered here, or on the station that holds it. */
export function AskFirst({
  asks,
  answers,
  onAnswer,
}: {
  asks: readonly Ask[];
  answers: Answers;
  onAnswer: (answers: Answers) => void;
}) {
  const answered = QUESTIONS.filter((q) => answers[q.key] !== undefined);
  const open = asks.map((a) => ({ ask: a, known: QUESTIONS.find((q) => q.key === a.key) ?? null }));
  const set = (key: QuestionKey, value: string | null): void => {
    const rest = Object.fromEntries(Object.entries(answers).filter(([k]) => k !== key));
    onAnswer(value === null ? rest : { ...rest, [key]: value });
  };
  return (
    <>
      {open.map(({ ask, known }) => (
        <Box key={ask.key} sx={{ py: 1, borderTop: 1, borderColor: 'divider' }}>
          <Typography sx={{ fontWeight: 560 }}>{ask.question}</Typography>
          <Typography variant="body2" color="textSecondary" sx={{ mb: 0.75 }}>
            {ask.because}
          </Typography>
          {known ? (
            <Choice
              label={ask.question}
              hideLabel
              options={known.options}
              value={(answers[known.key] ?? null) as never}
              onChange={(v) => set(known.key, v)}
            />
          ) : (
            <Link component={RouterLink} to="../bike" relative="path">
              Type it on Bike
            </Link>
          )}
        </Box>
      ))}
      {answered.map((q) => (
        <Box
          key={q.key}
          sx={{ py: 0.75, borderTop: 1, borderColor: 'divider', display: 'flex', gap: 1, flexWrap: 'wrap' }}
        >
          <Typography variant="body2" color="textSecondary" sx={{ width: '100%' }}>
            {q.text}
          </Typography>
          <Choice
            label={q.text}
            hideLabel
            options={q.options}
            value={(answers[q.key] ?? null) as never}
            onChange={(v) => set(q.key, v)}
          />
        </Box>
      ))}
    </>
  );
}
