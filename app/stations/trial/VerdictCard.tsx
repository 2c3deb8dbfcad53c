import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import Joi from 'joi';
import { useState } from 'react';
import { Choice } from '../../ui/fields/Choice';
import { FeltWhere } from './FeltWhere';
import { ChangeMoves } from '../../ui/Moves';
import { NumberField } from '../../ui/fields/NumberField';
import type { Devices } from './useDevices';
import { useSet } from '../../session/useSet';
import { WordsField } from '../../ui/fields/WordsField';
import type { Change, RiderWord } from '../../../core/plan/terms/change.ts';
import { TRIAL_TESTS } from '../../../core/plan/terms/trialTests.ts';
import { FieldPlace } from '../../session/useTyped';
import { WordButtons } from './WordButtons';

/** The change that is being ridden: what the rider says of it, where it is felt, what the tests show; kept by a word, undone by a key. */
export function VerdictCard({
  change,
  devices,
  onWord,
  onUndo,
}: {
  change: Change;
  devices: Devices;
  onWord: (word: RiderWord) => void;
  onUndo: () => void;
}) {
  const { set } = useSet();
  const [more, setMore] = useState(false);
  const at = (path: string): string => `changes.#${change.id}.${path}`;
  return (
    <FieldPlace value={change.id}>
      <Box
        component="section"
        aria-label="Being ridden"
        sx={{ border: 2, borderColor: 'primary.main', p: 2 }}
      >
        <Typography color="textSecondary">On the bike now: ride, then ask</Typography>
        <Box sx={{ '& p:not(.MuiTypography-body2)': { fontSize: '1.35rem' } }} data-testid="being-ridden">
          <ChangeMoves values={change.values} />
        </Box>
        <WordButtons onWord={onWord} onUndo={onUndo} />
        <Box sx={{ mt: 1.5, display: 'grid', gap: 1.25 }}>
          <FeltWhere felt={change.felt} onChange={(felt) => set(at('felt'), felt)} />
          <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
            {TRIAL_TESTS.slice(0, more ? TRIAL_TESTS.length : 3).map((t) => (
              <Choice
                key={t.key}
                label={t.name}
                options={t.options}
                value={change.tests[t.key] ?? null}
                onChange={(found) => {
                  const tests = { ...change.tests };
                  if (found === null) delete tests[t.key];
                  else tests[t.key] = found;
                  set(at('tests'), tests);
                }}
              />
            ))}
            {!more && <Button onClick={() => setMore(true)}>More tests…</Button>}
          </Box>
          <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'flex-start' }}>
            {!devices.on && (
              <>
                <Box sx={{ width: 120 }}>
                  <NumberField
                    optional
                    label="Power"
                    unit="W"
                    value={change.ridden.powerW}
                    schema={Joi.number().min(0).max(2500)}
                    onChange={(v) => set(at('ridden.powerW'), v)}
                  />
                </Box>
                <Box sx={{ width: 130 }}>
                  <NumberField
                    optional
                    label="Cadence"
                    unit="rpm"
                    value={change.ridden.cadenceRpm}
                    schema={Joi.number().min(20).max(220)}
                    onChange={(v) => set(at('ridden.cadenceRpm'), v)}
                  />
                </Box>
              </>
            )}
            <Box sx={{ flex: 1, minWidth: 200, display: 'grid' }}>
              <WordsField
                label="In the rider’s words"
                most={1000}
                value={change.note}
                onChange={(v) => set(at('note'), v)}
              />
            </Box>
          </Box>
        </Box>
      </Box>
    </FieldPlace>
  );
}
