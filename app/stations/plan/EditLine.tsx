import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { CONTROLS, type ControlKey } from '../../../core/plan/controls/controlTable.ts';
import { standsAt, type Moves } from '../../../core/plan/controls/controls.ts';
import type { Decision, PlanCase, PlanLine, Prescription } from '../../../core/plan/terms/plan.ts';
import { planChanges, type LineChange } from '../../../core/plan/terms/planChanges.ts';
import { ControlField } from '../../ui/fields/ControlField';
import { lineTitle } from '../../ui/words/moveText';
import { whyNot } from '../../storage/saveState';
import { planOf } from '../../jobs/plans';
import { useStudio } from '../../session/useStudio';

/** Other figures for a line: what it changes in the other lines is reported, line by line, before it is taken. */
export function EditLine({
  line,
  planned,
  plan,
  onCancel,
  onDecide,
}: {
  line: PlanLine;
  planned: PlanCase;
  plan: Prescription;
  onCancel: () => void;
  onDecide: (d: Decision) => void;
}) {
  const { lengthUnit } = useStudio();
  const [moves, setMoves] = useState<Moves>(line.moves);
  const [changes, setChanges] = useState<LineChange[] | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const decision: Decision = { key: line.key, state: 'edited', moves, reason: '', p: line.p };
  const take = async (): Promise<void> => {
    const others = planned.decisions.filter((d) => d.key !== line.key);
    try {
      const after = await planOf({ ...planned, decisions: [...others, decision] });
      const found = after ? planChanges(plan, after, line.key) : [];
      if (found.length === 0) onDecide(decision);
      else setChanges(found);
    } catch (error) {
      setTrouble(whyNot(error));
    }
  };
  const title = (l: PlanLine): string => lineTitle(l.key, l.moves, lengthUnit, l.title);
  return (
    <Box sx={{ border: 1, borderColor: 'divider', p: 1.5, mt: 1 }}>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', mb: 1.5, mt: 0.5 }}>
        {(Object.keys(line.moves) as ControlKey[]).map((key) => (
          <Box key={key} sx={{ width: 190 }}>
            <ControlField
              control={key}
              label={`${CONTROLS[key].name}, to`}
              from={standsAt(planned.bike, key)}
              by={moves[key] ?? 0}
              onChange={(by) => {
                setMoves({ ...moves, [key]: by });
                setChanges(null);
              }}
            />
          </Box>
        ))}
      </Box>
      {trouble && (
        <Alert severity="error" variant="outlined" sx={{ mb: 1.5 }}>
          What it changes could not be worked out: {trouble}
        </Alert>
      )}
      {changes && (
        <Box role="status" sx={{ mb: 1.5 }}>
          <Typography>Other lines change with it:</Typography>
          {changes.map((t) => (
            <Typography key={t.key} variant="body2">
              {t.kind === 'new'
                ? `new: ${title(t.after!)}`
                : t.kind === 'gone'
                  ? `no longer: ${title(t.before!)}`
                  : `${title(t.before!)} becomes ${title(t.after!)}`}
            </Typography>
          ))}
        </Box>
      )}
      <Button variant="contained" onClick={() => (changes ? onDecide(decision) : void take())} sx={{ mr: 1 }}>
        {changes ? 'Accept the change' : 'Use these'}
      </Button>
      <Button onClick={onCancel}>Cancel</Button>
    </Box>
  );
}
