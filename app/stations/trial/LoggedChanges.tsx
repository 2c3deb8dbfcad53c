import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import dayjs from 'dayjs';
import { regionName } from '../../../core/intake/intake.ts';
import type { Change, RiderWord } from '../../../core/plan/terms/change.ts';
import { TRIAL_TESTS } from '../../../core/plan/terms/trialTests.ts';
import { Choice } from '../../ui/fields/Choice';
import { ChangeMoves } from '../../ui/Moves';
import { WordsField } from '../../ui/fields/WordsField';
import { MeasuredChange } from '../../ui/live/MeasuredChange';
import { FieldPlace } from '../../session/useTyped';

const WORDS: readonly (readonly [RiderWord, string])[] = [
  ['better', 'better'],
  ['same', 'same'],
  ['worse', 'worse'],
];

/** What was found beside the rider's word, in one line. */
function foundText(c: Change): string {
  const tests = TRIAL_TESTS.flatMap((t) => {
    const found = t.options.find(([key]) => key === c.tests[t.key]);
    return found ? [`${t.name.split(/[,:]/)[0].toLowerCase()}: ${found[1]}`] : [];
  });
  const { powerW, cadenceRpm, leftPercent, saddleFrontPercent, saddlePeakKPa } = c.ridden;
  return [
    c.felt.length > 0 && `felt at ${c.felt.map(regionName).join(', ')}`,
    ...tests,
    powerW !== null && `${powerW} W`,
    cadenceRpm !== null && `${cadenceRpm} rpm`,
    leftPercent !== null && `left leg ${leftPercent} %`,
    saddleFrontPercent !== null && `saddle: front ${saddleFrontPercent} %`,
    saddlePeakKPa !== null && `peak ${saddlePeakKPa} kPa`,
  ]
    .filter(Boolean)
    .join(' · ');
}

/** Everything that was moved, newest first, by rounds: what the rider said, what was found, and a way back. */
export function LoggedChanges({
  changes,
  onWord,
  onNote,
  onPutBack,
}: {
  changes: readonly Change[];
  onWord: (changeId: string, word: RiderWord | null) => void;
  onNote: (changeId: string, note: string) => void;
  onPutBack: (id: string) => void;
}) {
  if (changes.length === 0)
    return (
      <Typography color="textSecondary" sx={{ mt: 3 }}>
        Nothing moved yet. Each step is logged here with its time, the rider’s word and Undo.
      </Typography>
    );
  const rows = changes.toReversed();
  return (
    <Box component="ol" aria-label="What was moved" sx={{ listStyle: 'none', m: 0, p: 0, mt: 3 }}>
      {rows.map((c, k) => (
        <Box key={c.id} component="li">
          {(k === 0 || rows[k - 1].round !== c.round) && (
            <Typography
              variant="h2"
              sx={{ borderBottom: 1, borderColor: 'text.primary', mt: k === 0 ? 0 : 2 }}
            >
              Round {c.round}
            </Typography>
          )}
          <Box
            sx={{
              display: 'grid',
              gridTemplateColumns: { xs: '1fr', sm: '52px minmax(0, 1fr) auto' },
              columnGap: 1.5,
              py: 1,
              borderBottom: 1,
              borderColor: 'divider',
              alignItems: 'center',
            }}
          >
            <Typography variant="body2" color="textSecondary">
              {dayjs(c.madeIso).format('HH:mm')}
            </Typography>
            <Box sx={{ minWidth: 0, '& p': { textDecoration: c.putBackIso ? 'line-through' : 'none' } }}>
              <ChangeMoves values={c.values} />
            </Box>
            <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
              <Choice<RiderWord>
                label="The rider says"
                hideLabel
                options={WORDS}
                value={c.word}
                onChange={(word) => onWord(c.id, word)}
              />
              {c.putBackIso ? (
                <Typography variant="body2" color="textSecondary" sx={{ width: 92 }}>
                  undone {dayjs(c.putBackIso).format('HH:mm')}
                </Typography>
              ) : (
                <Button size="small" onClick={() => onPutBack(c.id)} sx={{ width: 92 }}>
                  Undo this change
                </Button>
              )}
            </Box>
            <Box sx={{ gridColumn: { sm: '2 / -1' } }}>
              <Typography variant="body2" color="textSecondary">
                {foundText(c)}
              </Typography>
              {c.measured && <MeasuredChange measured={c.measured} predicted={() => null} />}
              {c.word !== null && (
                <Box sx={{ maxWidth: 420, mt: 0.5, display: 'grid' }}>
                  {k === 0 ? (
                    <FieldPlace value={c.id}>
                      <WordsField
                        label="In the rider’s words"
                        most={1000}
                        value={c.note}
                        onChange={(v) => onNote(c.id, v)}
                      />
                    </FieldPlace>
                  ) : (
                    c.note && <Typography variant="body2">“{c.note}”</Typography>
                  )}
                </Box>
              )}
            </Box>
          </Box>
        </Box>
      ))}
    </Box>
  );
}
