import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { memo } from 'react';
import type { BodyModel } from '../../../../core/model/bodyModel.ts';
import { UNRELIABLE_FROM_DEG } from '../../../../core/model/legModel.ts';
import { both, type Moves } from '../../../../core/plan/controls/controls.ts';
import { knockOns } from '../../../../core/plan/couplings.ts';
import type { VisitCase } from '../../../../core/visit/visitCase.ts';
import { useStudio } from '../../../session/useStudio';
import { useInUnits } from '../../../ui/useInUnits';
import { degrees } from '../../../ui/words/angleText';
import { movesText } from '../../../ui/words/moveText';
import type { Tried } from './tried';

/** What moves carry with them, in words, and what the model is worth. */
export const BenchEffects = memo(function BenchEffects({
  visitCase,
  model,
  tried,
  settled,
  onPut,
}: {
  visitCase: VisitCase['case'];
  model: BodyModel;
  tried: Tried;
  /** What has come to rest: a partner is added to it. */
  settled: Moves;
  onPut: (moves: Moves) => void;
}) {
  const { lengthUnit } = useStudio();
  const inUnits = useInUnits();
  const { moves, partner, forecast } = tried;
  return (
    <>
      <Typography variant="body2" color="textSecondary">
        filled: as filmed · dashed: predicted · {movesText(moves, lengthUnit)}
      </Typography>
      <Box component="ul" aria-label="Couplings" sx={{ m: 0, mt: 1, pl: 2.5 }}>
        {inUnits(knockOns(visitCase, moves)).map((k) => (
          <li key={k}>{k}</li>
        ))}
      </Box>
      {partner && (
        <Button variant="outlined" sx={{ mt: 1 }} onClick={() => onPut(both(settled, partner))}>
          Compensate: {movesText(partner, lengthUnit)} (C)
        </Button>
      )}
      {forecast.ok && forecast.rounds && (
        <Alert severity="warning" variant="outlined" sx={{ mt: 1 }}>
          The back is at its limit (it rounds on the hinge): lower or further, it rounds and the head lifts.
        </Alert>
      )}
      <ModelWorth model={model} habits={visitCase.habits} />
    </>
  );
});

const ModelWorth = memo(function ModelWorth({
  model,
  habits,
}: {
  model: BodyModel;
  habits: VisitCase['case']['habits'];
}) {
  const { residualDeg } = model;
  if (residualDeg === null)
    return (
      <Alert severity="warning" variant="outlined" sx={{ mt: 1 }}>
        A joint of this leg was not seen: its place is taken from usual proportions, and the model can’t be
        checked against the knee.
      </Alert>
    );
  if (residualDeg > UNRELIABLE_FROM_DEG)
    return (
      <Alert severity="warning" variant="outlined" sx={{ mt: 1 }}>
        The rebuilt leg misses the measured knee by {degrees(residualDeg)}: what is predicted here is
        unreliable. Check the marks of hip, knee and ankle.
      </Alert>
    );
  return (
    <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
      Model: thigh {model.leg.thighMm.toFixed(0)}, shank {model.leg.shankMm.toFixed(0)}, trunk{' '}
      {model.trunkMm.toFixed(0)}, arm {(model.upperArmMm + model.forearmMm).toFixed(0)} mm; it rebuilds the
      measured knee to {degrees(residualDeg, 2)}. Foot takes {Math.round(100 * habits.kappa.mean)} % of a leg
      change (± {Math.round(196 * habits.kappa.sd)}), back {Math.round(100 * habits.rho.mean)} % of a bar
      change (± {Math.round(196 * habits.rho.sd)}), until a second film shows this rider’s own.
    </Typography>
  );
});
