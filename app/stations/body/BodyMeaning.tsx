import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import {
  barWidthMm,
  cleatRotationStart,
  crankRangeMm,
  legLength,
  saddleHeightStarts,
  saddleWidths,
  shoeAdvice,
  spread,
  stanceTendency,
  type Posture,
} from '../../../core/body/estimates.ts';
import { bodySummary } from '../../../core/body/meaning.ts';
import { single } from '../../../core/body/bodyTests.ts';
import { adjustBands } from '../../../core/protocol/adjust.ts';
import { MEASURE_NAMES } from '../../../core/protocol/protocols.ts';
import { protocolUsed } from '../../../core/protocol/shelf.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { lengthText, lengthWithUnit, type LengthUnit } from '../../../core/units/length.ts';
import { bandText } from '../../ui/words/bandText';
import { useStudio } from '../../session/useStudio';

const posture = (protocolId: string): Posture =>
  protocolId === 'city' ? 'upright' : protocolId === 'time-trial' ? 'low' : 'middle';

/** Starting estimates, the bands as they move, and the card that goes on to the next stations. */
export function BodyMeaning({
  session,
  set,
}: {
  session: FitSession;
  set: (at: string, value: unknown) => void;
}) {
  const { lengthUnit, jointConvention } = useStudio();
  const { body } = session;
  const protocol = protocolUsed(session);
  const { adjustments, halfSteps } = adjustBands(protocol, body, session.intake);
  const card = bodySummary(body);
  return (
    <>
      <Typography variant="h2">Card</Typography>
      <Box data-testid="body-card" sx={{ borderLeft: 3, borderColor: 'primary.main', pl: 1.5, my: 1, mb: 3 }}>
        {card.limits.length + card.watch.length === 0 && (
          <Typography color="textSecondary">No limit and no asymmetry so far.</Typography>
        )}
        {card.limits.map((t) => (
          <Typography key={t} sx={{ fontWeight: 560 }}>
            {t}
          </Typography>
        ))}
        {card.watch.map((t) => (
          <Typography key={t}>{t}</Typography>
        ))}
      </Box>
      <Estimates session={session} unit={lengthUnit} />
      <Typography variant="h2" sx={{ mt: 3, mb: 1 }}>
        Bands for this rider
      </Typography>
      {adjustments.length === 0 && (
        <Typography color="textSecondary">
          As the protocol has them: {protocol.name.toLowerCase()}.
        </Typography>
      )}
      {adjustments.map((a) => (
        <Box key={a.key} sx={{ mb: 1.5 }}>
          <FormControlLabel
            control={
              <Checkbox
                size="small"
                checked={a.on}
                onChange={() =>
                  set(
                    'body.adjustmentsOff',
                    a.on ? [...body.adjustmentsOff, a.key] : body.adjustmentsOff.filter((k) => k !== a.key),
                  )
                }
              />
            }
            label={a.finding}
          />
          <Box sx={{ pl: 3.5, opacity: a.on ? 1 : 0.55 }}>
            {a.shifts.map((s) => (
              <Typography key={s.measure} variant="body2">
                {MEASURE_NAMES[s.measure]}: {bandText(s.before, '°')} →{' '}
                <strong>{bandText(s.after, '°')}</strong>
              </Typography>
            ))}
            {a.also && <Typography variant="body2">{a.also}</Typography>}
          </Box>
        </Box>
      ))}
      {jointConvention === 'inside' && adjustments.length > 0 && (
        <Typography variant="body2" color="textSecondary">
          Knee and elbow are given here as bend (0° straight).
        </Typography>
      )}
      {halfSteps && <Typography variant="body2">Steps are half as large for this rider.</Typography>}
    </>
  );
}

function Estimates({ session, unit }: { session: FitSession; unit: LengthUnit }) {
  const { body, asFound } = session;
  const inseam = single(body, 'inseam');
  const sit = single(body, 'sitBones');
  const shoulders = single(body, 'shoulderWidth');
  const starts = inseam === null ? [] : saddleHeightStarts(inseam, asFound.crank.lengthMm);
  const shoe = shoeAdvice(body, asFound);
  const turn = cleatRotationStart(body);
  const stance = stanceTendency(body);
  const legs = legLength(body);
  const mm = (v: number): string => lengthWithUnit(Math.round(v), unit);
  const fromTo = ([a, b]: [number, number]): string =>
    `${lengthText(a, unit)} to ${lengthText(b, unit)} ${unit}`;
  const heel = (v: number | null): string =>
    v === null ? 'open' : v === 0 ? 'straight' : `heel ${Math.abs(v)}° ${v < 0 ? 'in' : 'out'}`;
  return (
    <>
      <Typography variant="h2" gutterBottom>
        Starting estimates
      </Typography>
      {inseam === null && sit === null && (
        <Typography color="textSecondary">Inseam and sit-bone spacing give the first of them.</Typography>
      )}
      {starts.length > 0 && (
        <Box sx={{ mb: 1.5 }}>
          <Typography variant="h3">
            Saddle height{' '}
            <Typography component="span" color="textSecondary">
              schools {mm(spread(starts.map((s) => s.mm)))} apart
            </Typography>
          </Typography>
          {starts.map((s) => (
            <Row key={s.school} name={`${s.school}: ${s.formula}`} value={mm(s.mm)} />
          ))}
          <Row
            name="As found"
            value={asFound.saddle.heightMm === null ? 'open' : mm(asFound.saddle.heightMm)}
          />
          <Row name="Crank, 0.20 to 0.216 × inseam" value={fromTo(crankRangeMm(inseam!))} />
        </Box>
      )}
      {sit !== null && (
        <Box sx={{ mb: 1.5 }}>
          <Typography variant="h3">Saddle width</Typography>
          {saddleWidths(sit, posture(session.protocolId)).map((w) => (
            <Row key={w.school} name={w.school} value={fromTo([w.fromMm, w.toMm])} />
          ))}
          <Typography variant="body2" color="textSecondary">
            Check on the saddle’s flat part.
          </Typography>
        </Box>
      )}
      {shoulders !== null && (
        <Row name="Bar width, shoulders ± 20 mm" value={fromTo(barWidthMm(shoulders))} />
      )}
      {shoe.size !== null && <Row name="Shoe size, by the larger foot" value={`${shoe.size} EU`} />}
      {shoe.notes.map((n) => (
        <Typography key={n} variant="body2">
          {n}
        </Typography>
      ))}
      {(turn.left !== null || turn.right !== null) && (
        <Row name="Cleat turn to start, left · right" value={`${heel(turn.left)} · ${heel(turn.right)}`} />
      )}
      {stance.reasons.length > 0 && (
        <Row name={`Stance: ${stance.reasons.join(', ')}`} value={stance.tends} />
      )}
      {legs.kind !== 'open' && (
        <Box sx={{ mt: 1.5 }}>
          <Typography variant="h3">Leg length</Typography>
          <Typography variant="body2">{legs.words}</Typography>
          {legs.refer && (
            <Alert severity="warning" variant="outlined" sx={{ mt: 0.5 }}>
              Over 6 mm: a clinician sees it before it is treated.
            </Alert>
          )}
        </Box>
      )}
    </>
  );
}

const Row = ({ name, value }: { name: string; value: string }) => (
  <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 2 }}>
    <Typography color="textSecondary">{name}</Typography>
    <Typography sx={{ fontWeight: 560, textAlign: 'right', flexShrink: 0 }}>{value}</Typography>
  </Box>
);
