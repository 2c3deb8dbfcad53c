import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type Joi from 'joi';
import { useState } from 'react';
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
} from '../../core/body/estimates.ts';
import { bodySummary, meaningOf } from '../../core/body/meaning.ts';
import {
  BODY_TESTS,
  NOT_TESTED,
  single,
  type BodyTest,
  type TestGroup,
  type TestKey,
  type TestResult,
} from '../../core/body/tests.ts';
import { adjustBands } from '../../core/prescribe/adjust.ts';
import { MEASURE_NAMES, protocolById } from '../../core/prescribe/protocols.ts';
import { testValue } from '../../core/records/stationSchemas.ts';
import type { FitSession } from '../../core/records/types.ts';
import { lengthText, lengthWithUnit, type LengthUnit } from '../../core/units/length.ts';
import { bandText } from '../components/bandText';
import { Choice } from '../components/Choice';
import { Desk, Sheet } from '../components/Desk';
import { ImpressionDialog } from '../components/ImpressionDialog';
import { LengthField, MassField, NumberField } from '../components/NumberField';
import { PoseDrawing } from '../components/PoseDrawing';
import { useSet } from '../components/useSet';
import { useSettings } from '../components/useSettings';
import { useSession } from './session';

const GROUPS: readonly TestGroup[] = [
  'Lengths',
  'Feet',
  'Leg length',
  'Hips and hamstrings',
  'Control',
  'Back and shoulders',
];

export default function Body() {
  const { session } = useSession();
  const { set, refused } = useSet();
  const { body } = session;
  const tests: readonly BodyTest[] = BODY_TESTS;
  return (
    <Desk sideLabel="What it means" side={<Means session={session} set={set} />}>
      {refused && <Alert severity="error">{refused}</Alert>}
      {GROUPS.map((group) => (
        <Sheet key={group} title={group}>
          {tests
            .filter((t) => t.group === group)
            .map((test) => (
              <TestRow
                key={test.key}
                test={test}
                result={body.results[test.key as TestKey] ?? NOT_TESTED}
                meaning={meaningOf(test.key as TestKey, body)}
                onAnswer={(side, v) => set(`body.results.${test.key}.${side}`, v)}
                onSkip={(why) => set(`body.results.${test.key}`, { ...NOT_TESTED, skipped: why })}
              />
            ))}
        </Sheet>
      ))}
    </Desk>
  );
}

interface RowProps {
  test: BodyTest;
  result: TestResult;
  meaning: string | null;
  onAnswer: (side: 'left' | 'right' | 'both', v: number | string | null) => void;
  onSkip: (why: string | null) => void;
}

/** One test: how it is done, left and right side by side, what it means, or why it was left out. */
function TestRow({ test, result, meaning, onAnswer, onSkip }: RowProps) {
  const [how, setHow] = useState(false);
  const [photo, setPhoto] = useState(false);
  const [skipping, setSkipping] = useState(false);
  const [why, setWhy] = useState('');
  const sides = test.sides === 'two' ? (['left', 'right'] as const) : (['both'] as const);
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', sm: '190px minmax(0, 1fr) 140px' },
        columnGap: 2,
        rowGap: 0.5,
        py: 0.75,
        borderBottom: 1,
        borderColor: 'divider',
      }}
    >
      <Typography sx={{ fontWeight: 560, pt: 1 }}>{test.name}</Typography>
      <Box>
        {result.skipped !== null ? (
          <Box sx={{ display: 'flex', gap: 2, alignItems: 'center' }}>
            <Typography color="text.secondary">Skipped: {result.skipped || 'no reason given'}</Typography>
            <Button size="small" onClick={() => onSkip(null)}>
              Do it after all
            </Button>
          </Box>
        ) : (
          <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
            {sides.map((side) => (
              <Box key={side} sx={{ width: test.choices ? 'auto' : 150 }}>
                <Answer
                  test={test}
                  label={side === 'both' ? test.name : side === 'left' ? 'Left' : 'Right'}
                  value={result[side]}
                  onChange={(v) => onAnswer(side, v)}
                />
              </Box>
            ))}
            {test.key === 'sitBones' && <Button onClick={() => setPhoto(true)}>From a photo…</Button>}
          </Box>
        )}
        {photo && <ImpressionDialog onClose={() => setPhoto(false)} onTake={(mm) => onAnswer('both', mm)} />}
        {skipping && result.skipped === null && (
          <Box sx={{ display: 'flex', gap: 1, mt: 1 }}>
            <TextField
              size="small"
              label="Why not"
              value={why}
              onChange={(e) => setWhy(e.target.value)}
              slotProps={{ htmlInput: { maxLength: 300 } }}
            />
            <Button
              variant="outlined"
              onClick={() => {
                setSkipping(false);
                onSkip(why.trim());
              }}
            >
              Skip it
            </Button>
          </Box>
        )}
        {meaning && (
          <Typography variant="body2" sx={{ mt: 0.5, borderLeft: 2, borderColor: 'primary.main', pl: 1 }}>
            {meaning}
          </Typography>
        )}
        {how && (
          <Box sx={{ display: 'flex', gap: 2, mt: 1 }}>
            <PoseDrawing test={test.key as TestKey} />
            <Box component="ol" sx={{ m: 0, pl: 2.5 }}>
              {test.howTo.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </Box>
          </Box>
        )}
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'flex-start', gap: 0.5 }}>
        <Button
          size="small"
          onClick={() => setHow(!how)}
          aria-expanded={how}
          aria-label={`How: ${test.name}`}
        >
          How
        </Button>
        {result.skipped === null && (
          <Button size="small" onClick={() => setSkipping(!skipping)} aria-label={`Skip: ${test.name}`}>
            Skip…
          </Button>
        )}
      </Box>
    </Box>
  );
}

function Answer({
  test,
  label,
  value,
  onChange,
}: {
  test: BodyTest;
  label: string;
  value: number | string | null;
  onChange: (v: number | string | null) => void;
}) {
  if (test.choices) {
    return (
      <Choice
        label={label}
        hideLabel={test.sides === 'one'}
        options={test.choices}
        value={typeof value === 'string' ? value : null}
        onChange={onChange}
      />
    );
  }
  const shared = {
    label,
    optional: true as const,
    value: typeof value === 'number' ? value : null,
    schema: testValue(test) as Joi.NumberSchema,
    onChange,
  };
  const { unit } = test.number!;
  if (unit === 'mm') return <LengthField {...shared} />;
  return unit === 'kg' ? <MassField {...shared} /> : <NumberField {...shared} unit={unit} />;
}

const posture = (protocolId: string): Posture =>
  protocolId === 'city' ? 'upright' : protocolId === 'time-trial' ? 'low' : 'middle';

/** Starting estimates, the bands as they move, and the card that goes on to the next stations. */
function Means({ session, set }: { session: FitSession; set: (at: string, value: unknown) => void }) {
  const { lengthUnit, jointConvention } = useSettings();
  const { body } = session;
  const protocol = protocolById(session.protocolId);
  const { adjustments, halfSteps } = adjustBands(protocol, body, session.intake);
  const card = bodySummary(body);
  return (
    <>
      <Typography variant="h2">Card</Typography>
      <Box data-testid="body-card" sx={{ borderLeft: 3, borderColor: 'primary.main', pl: 1.5, my: 1, mb: 3 }}>
        {card.limits.length + card.watch.length === 0 && (
          <Typography color="text.secondary">No limit and no asymmetry so far.</Typography>
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
        <Typography color="text.secondary">
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
        <Typography variant="body2" color="text.secondary">
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
        <Typography color="text.secondary">Inseam and sit-bone spacing give the first of them.</Typography>
      )}
      {starts.length > 0 && (
        <Box sx={{ mb: 1.5 }}>
          <Typography variant="h3">
            Saddle height{' '}
            <Typography component="span" color="text.secondary">
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
          <Typography variant="body2" color="text.secondary">
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
    <Typography color="text.secondary">{name}</Typography>
    <Typography sx={{ fontWeight: 560, textAlign: 'right', flexShrink: 0 }}>{value}</Typography>
  </Box>
);
