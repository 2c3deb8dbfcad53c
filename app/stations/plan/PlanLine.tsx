import ArrowDownward from '@mui/icons-material/ArrowDownward';
import ArrowUpward from '@mui/icons-material/ArrowUpward';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { BikeSetup } from '../../../core/bike/setup.ts';
import { CONTROLS, type ControlKey } from '../../../core/plan/controls/controlTable.ts';
import type { PredictedMeasure } from '../../../core/model/forecast.ts';
import type { Decision, PlanCase, PlanLine, Prescription } from '../../../core/plan/terms/plan.ts';
import { measureName, verdictWords } from '../../../core/protocol/convention.ts';
import { callsForChange } from '../../../core/protocol/protocols.ts';
import { EditLine } from './EditLine';
import { predictedText } from './ForecastTable';
import { byText, fromToText, lineTitle } from '../../ui/words/moveText';
import { RejectLine } from './RejectLine';
import { useStudio } from '../../session/useStudio';
import { useInUnits } from '../../ui/useInUnits';

const STAGE_NAMES = { feet: 'Feet', saddle: 'Saddle', cockpit: 'Cockpit' } as const;

/** What a line moves most, findings first. */
function effects(line: PlanLine): PredictedMeasure[] {
  return line.predicted
    .map((f) => ({
      f,
      weight: Math.abs(f.after - f.before) / (f.high - f.low) + (callsForChange(f.key) ? 0.3 : 0),
    }))
    .filter(({ f }) => Math.abs(f.after - f.before) >= 0.5)
    .sort((a, b) => b.weight - a.weight)
    .slice(0, 4)
    .map(({ f }) => f);
}

export function Line({
  line,
  number,
  planned,
  plan,
  done,
  onDecide,
  onUp,
  onDown,
  onDone,
}: {
  line: PlanLine;
  number: number;
  planned: PlanCase;
  plan: Prescription;
  done: boolean;
  onDecide: (d: Decision | null) => void;
  onUp: (() => void) | null;
  onDown: (() => void) | null;
  onDone: (line: PlanLine) => void;
}) {
  const { lengthUnit, jointConvention } = useStudio();
  const [mode, setMode] = useState<'show' | 'edit' | 'reject'>('show');
  const { decision } = line;
  const words = useInUnits()(line);
  const title = lineTitle(line.key, line.moves, lengthUnit, words.title);
  const moves = Object.entries(line.moves) as [ControlKey, number][];
  return (
    <Box
      component="li"
      aria-label={title}
      sx={{
        borderTop: 1,
        borderColor: 'divider',
        py: 2,
        display: 'grid',
        gridTemplateColumns: '44px 1fr',
        columnGap: 1,
      }}
    >
      <Typography sx={{ fontSize: '1.6rem', fontWeight: 300, lineHeight: 1.2 }}>{number}</Typography>
      <Box sx={{ minWidth: 0 }}>
        <Box sx={{ display: 'flex', alignItems: 'flex-start', gap: 1 }}>
          <Box sx={{ flex: 1, minWidth: 0 }}>
            <Typography variant="body2" color="textSecondary">
              {STAGE_NAMES[line.stage]}
              {decision && ` · ${decision.state}${decision.reason ? `: ${decision.reason}` : ''}`}
              {done && ' · on the bike'}
            </Typography>
            <Typography variant="h2" sx={{ fontSize: '1.45rem' }}>
              {title}
            </Typography>
            <Typography data-testid="probability" sx={{ fontWeight: 560 }}>
              {line.probability[0].toUpperCase()}
              {line.probability.slice(1)}
            </Typography>
          </Box>
          <IconButton aria-label={`${title}: earlier`} disabled={!onUp} onClick={() => onUp?.()}>
            <ArrowUpward />
          </IconButton>
          <IconButton aria-label={`${title}: later`} disabled={!onDown} onClick={() => onDown?.()}>
            <ArrowDownward />
          </IconButton>
        </Box>
        <MoveRows bike={planned.bike} moves={moves} />
        <Box
          component="dl"
          sx={{
            m: 0,
            mt: 1,
            display: 'grid',
            gridTemplateColumns: '6.25rem 1fr',
            columnGap: 1.5,
            rowGap: 0.5,
            '& dt': { color: 'text.secondary' },
            '& dd': { m: 0, minWidth: 0 },
          }}
        >
          <Term name="Why" items={words.why} />
          <Term
            name="Predicted"
            items={effects(line).map(
              (f) =>
                `${measureName(f.key, jointConvention).toLowerCase()} ${predictedText(f, f.key.endsWith('Mm') ? 'mm' : '°', jointConvention)}, ${verdictWords(f.key, f.verdict, jointConvention)}`,
            )}
          />
          <Term name="Knock-on" items={words.knockOn} />
          <Term name="Steps" items={words.steps ? [words.steps] : []} />
          <Term name="Then check" items={[words.check]} />
          <Term name="Caution" items={words.risk} />
          <Term name="Also cures" items={[...new Set(words.vanishes)]} />
          <Term name="Instead" items={words.instead ? [words.instead] : []} />
        </Box>
        <MadeOf p={line.p} items={words.madeOf} />
        {mode === 'edit' && (
          <EditLine
            line={line}
            planned={planned}
            plan={plan}
            onCancel={() => setMode('show')}
            onDecide={(d) => {
              setMode('show');
              onDecide(d);
            }}
          />
        )}
        {mode === 'reject' && (
          <RejectLine
            onCancel={() => setMode('show')}
            onReject={(reason) => {
              setMode('show');
              onDecide({ key: line.key, state: 'rejected', moves: line.moves, reason, p: line.p });
            }}
          />
        )}
        {mode === 'show' && (
          <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1 }} className="no-print">
            {decision && (
              <Button variant="outlined" onClick={() => onDecide(null)}>
                Reopen
              </Button>
            )}
            {!done && moves.length > 0 && (
              <Button variant="contained" onClick={() => onDone(line)}>
                Done on the bike
              </Button>
            )}
            {moves.length > 0 && (
              <Button variant="outlined" onClick={() => setMode('edit')}>
                Edit
              </Button>
            )}
            <Button variant="outlined" onClick={() => setMode('reject')}>
              Reject
            </Button>
          </Box>
        )}
      </Box>
    </Box>
  );
}

/** What a line's probability was made of, unfolded when wanted. */
function MadeOf({ p, items }: { p: number; items: readonly string[] }) {
  if (items.length === 0) return null;
  return (
    <Box component="details" sx={{ mt: 0.5 }}>
      <Box component="summary" sx={{ cursor: 'pointer', py: 1 }}>
        <Typography component="span" variant="body2" color="textSecondary">
          What the {p >= 0.95 ? 'over 9' : Math.round(10 * p)} in 10 is made of
        </Typography>
      </Box>
      {items.map((t) => (
        <Typography key={t} variant="body2">
          {t}
        </Typography>
      ))}
    </Box>
  );
}

/** Each control from where to where, and by how much. */
function MoveRows({ bike, moves }: { bike: BikeSetup; moves: readonly (readonly [ControlKey, number])[] }) {
  const { lengthUnit } = useStudio();
  return moves.map(([key, by]) => {
    const ends = fromToText(bike, key, by, lengthUnit);
    return (
      <Typography key={key} sx={{ fontSize: '1.05rem' }}>
        {CONTROLS[key].name}: <strong>{ends ?? byText(key, by, lengthUnit)}</strong>{' '}
        {ends && key !== 'stemFlip' && (
          <Box component="span" sx={{ color: 'text.secondary' }}>
            ({byText(key, by, lengthUnit)})
          </Box>
        )}
      </Typography>
    );
  });
}

function Term({ name, items }: { name: string; items: readonly string[] }) {
  if (items.length === 0) return null;
  return (
    <>
      <Typography component="dt">{name}</Typography>
      <Box component="dd">
        {items.map((t) => (
          <Typography key={t}>{t}</Typography>
        ))}
      </Box>
    </>
  );
}
