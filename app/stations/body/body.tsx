import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type Joi from 'joi';
import { useState } from 'react';
import { meaningOf } from '../../../core/body/meaning.ts';
import {
  BODY_TESTS,
  isAnswered,
  NOT_TESTED,
  type BodyTest,
  type TestGroup,
  type TestKey,
  type TestResult,
} from '../../../core/body/bodyTests.ts';
import { testValue } from '../../../core/records/stationSchemas.ts';
import { BodyMeaning } from './BodyMeaning';
import { Choice } from '../../ui/fields/Choice';
import { Desk, FoldedSheet, Sheet } from '../../ui/Desk';
import { ShowAll } from '../../ui/ShowAll';
import { useUnfolded } from '../../session/useUnfolded';
import { ImpressionDialog } from './ImpressionDialog';
import { LengthField, MassField, NumberField } from '../../ui/fields/NumberField';
import { PoseDrawing } from './PoseDrawing';
import { useSet } from '../../session/useSet';
import { useSession } from '../session';
import { FieldPlace } from '../../session/useTyped';

const GROUPS: readonly TestGroup[] = [
  'Lengths',
  'Feet',
  'Leg length',
  'Hips and hamstrings',
  'Control',
  'Back and shoulders',
];

/** What starting heights, widths, crank and the bands are adjusted by: measured on every rider. */
const ESSENTIALS: readonly TestKey[] = [
  'height',
  'inseam',
  'sitBones',
  'shoulderWidth',
  'straightLegRaise',
  'hipFlexion',
  'hinge',
];

/** The others, by kind. */
const groups = GROUPS.map((group) => ({
  group,
  tests: (BODY_TESTS as readonly BodyTest[]).filter(
    (t) => t.group === group && !ESSENTIALS.includes(t.key as TestKey),
  ),
}));

export default function Body() {
  const { session } = useSession();
  const { set, refused } = useSet();
  const { body } = session;
  const { isOpen, unfold } = useUnfolded('body');
  const row = (test: BodyTest) => (
    <FieldPlace key={test.key} value={test.key}>
      <TestRow
        test={test}
        result={body.results[test.key as TestKey] ?? NOT_TESTED}
        meaning={meaningOf(test.key as TestKey, body)}
        onAnswer={(side, v) => set(`body.results.${test.key}.${side}`, v)}
        onSkip={(why) => set(`body.results.${test.key}`, { ...NOT_TESTED, skipped: why })}
      />
    </FieldPlace>
  );
  return (
    <Desk sideLabel="What it means" side={<BodyMeaning session={session} set={set} />}>
      {refused && <Alert severity="error">{refused}</Alert>}
      <Sheet title="Essentials" note="what the plan needs">
        {ESSENTIALS.map((key) => row(BODY_TESTS.find((t) => t.key === key)!))}
      </Sheet>
      {groups.map(({ group, tests }) => (
        <FoldedSheet
          key={group}
          title={group}
          note={`${tests.filter((t) => isAnswered(body.results[t.key as TestKey])).length} of ${tests.length}`}
          open={isOpen(group)}
          onOpen={(open) => unfold([group], open)}
        >
          {tests.map(row)}
        </FoldedSheet>
      ))}
      <ShowAll all={groups.map((g) => g.group)} isOpen={isOpen} unfold={unfold} />
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
            <Typography color="textSecondary">Skipped: {result.skipped || 'no reason given'}</Typography>
            <Button size="small" onClick={() => onSkip(null)}>
              Measure it after all
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
    hideLabel: test.sides === 'one',
    optional: true as const,
    value: typeof value === 'number' ? value : null,
    schema: testValue(test) as Joi.NumberSchema,
    onChange,
  };
  const { unit } = test.number!;
  if (unit === 'mm') return <LengthField {...shared} />;
  return unit === 'kg' ? <MassField {...shared} /> : <NumberField {...shared} unit={unit} />;
}
