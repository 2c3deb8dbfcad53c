import ArrowDownward from '@mui/icons-material/ArrowDownward';
import ArrowUpward from '@mui/icons-material/ArrowUpward';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { BikeSetup } from '../../core/bike/setup.ts';
import { CONTROLS, standsAt, type ControlKey, type Moves } from '../../core/plan/controls.ts';
import type { Foretold } from '../../core/model/foretell.ts';
import type { MeasureReading } from '../../core/protocol/measures.ts';
import type { Decision, PlanLine } from '../../core/plan/plan.ts';
import { MEASURE_NAMES } from '../../core/protocol/protocols.ts';
import { VERDICT_WORDS } from './BandGauge';
import { ControlField } from './ControlField';
import { foretoldText } from './ForecastTable';
import { fromToText, byText, lineTitle } from './moveText';
import { useStudio } from './useStudio';

const STAGE_NAMES = { feet: 'Feet', saddle: 'Saddle', cockpit: 'Cockpit' } as const;

/** The prescription's lines in order: what, from where to where, why, what it will do; taken, changed, left or moved up and down. */
export function PlanLines({
  lines,
  bike,
  measures,
  done,
  onDecide,
  onOrder,
  onDone,
}: {
  lines: readonly PlanLine[];
  bike: BikeSetup;
  measures: readonly MeasureReading[];
  /** Whether a line's moves are on the bike already. */
  done: (line: PlanLine) => boolean;
  onDecide: (key: string, decision: Decision | null) => void;
  onOrder: (keys: string[]) => void;
  onDone: (moves: Moves) => void;
}) {
  const swap = (i: number, by: -1 | 1): void => {
    const keys = lines.map((l) => l.key);
    [keys[i], keys[i + by]] = [keys[i + by], keys[i]];
    onOrder(keys);
  };
  return (
    <Box component="ol" aria-label="Prescription" sx={{ listStyle: 'none', m: 0, p: 0 }}>
      {lines.map((line, i) => (
        <Line
          key={line.key}
          line={line}
          number={i + 1}
          bike={bike}
          measures={measures}
          before={i > 0 ? lines[i - 1] : null}
          done={done(line)}
          onDecide={(d) => onDecide(line.key, d)}
          onUp={i > 0 ? () => swap(i, -1) : null}
          onDown={i < lines.length - 1 ? () => swap(i, 1) : null}
          onDone={onDone}
        />
      ))}
    </Box>
  );
}

/** What a line does, told against those before it: first to what was out, then to what moves most for how surely it is known. */
function effects(line: PlanLine, before: PlanLine | null): Foretold[] {
  if (!line.forecast?.ok) return [];
  const was = before?.forecast?.ok ? before.forecast.measures : null;
  return line.forecast.measures
    .map((f) => {
      const by = Math.abs(f.after - (was?.find((w) => w.key === f.key)?.after ?? f.before));
      const out = f.verdictBefore === 'low' || f.verdictBefore === 'high';
      return { f, by, weight: by / (f.high - f.low) + (out ? 10 : 0) };
    })
    .filter(({ by }) => by >= 1)
    .sort((a, b) => b.weight - a.weight)
    .slice(0, 4)
    .map(({ f }) => f);
}

function Line({
  line,
  number,
  bike,
  measures,
  before,
  done,
  onDecide,
  onUp,
  onDown,
  onDone,
}: {
  line: PlanLine;
  number: number;
  bike: BikeSetup;
  measures: readonly MeasureReading[];
  before: PlanLine | null;
  done: boolean;
  onDecide: (d: Decision | null) => void;
  onUp: (() => void) | null;
  onDown: (() => void) | null;
  onDone: (moves: Moves) => void;
}) {
  const { lengthUnit, jointConvention } = useStudio();
  const [mode, setMode] = useState<'show' | 'edit' | 'reject'>('show');
  const { decision } = line;
  const rejected = decision?.state === 'rejected';
  const title = lineTitle(line.key, line.moves, lengthUnit);
  const moves = Object.entries(line.moves) as [ControlKey, number][];
  const today = (Object.entries(line.today) as [ControlKey, number][]).filter(
    ([k, by]) => by !== line.moves[k],
  );
  return (
    <Box
      component="li"
      aria-label={title}
      sx={{
        borderTop: number === 1 ? 0 : 1,
        borderColor: 'divider',
        py: 2,
        display: 'grid',
        gridTemplateColumns: '44px 1fr',
        columnGap: 1,
        opacity: rejected ? 0.75 : 1,
      }}
    >
      <Typography sx={{ fontSize: '1.6rem', fontWeight: 300, lineHeight: 1.2 }}>{number}</Typography>
      <Box sx={{ minWidth: 0 }}>
        <Box sx={{ display: 'flex', alignItems: 'flex-start', gap: 1 }}>
          <Box sx={{ flex: 1 }}>
            <Typography variant="body2" color="textSecondary">
              {STAGE_NAMES[line.stage]}
              {decision && ` · ${decision.state}${decision.reason ? `: ${decision.reason}` : ''}`}
              {done && ' · on the bike'}
            </Typography>
            <Typography
              variant="h2"
              sx={{ fontSize: '1.45rem', textDecoration: rejected ? 'line-through' : 'none' }}
            >
              {title}
            </Typography>
          </Box>
          <IconButton aria-label={`${title}: earlier`} disabled={!onUp} onClick={() => onUp?.()}>
            <ArrowUpward />
          </IconButton>
          <IconButton aria-label={`${title}: later`} disabled={!onDown} onClick={() => onDown?.()}>
            <ArrowDownward />
          </IconButton>
        </Box>
        {moves.map(([key, by]) => (
          <Typography key={key} sx={{ fontSize: '1.05rem' }}>
            {CONTROLS[key].name}:{' '}
            <strong>{fromToText(bike, key, by, lengthUnit) ?? byText(key, by, lengthUnit)}</strong>{' '}
            {fromToText(bike, key, by, lengthUnit) && key !== 'stemFlip' && (
              <Box component="span" sx={{ color: 'text.secondary' }}>
                ({byText(key, by, lengthUnit)})
              </Box>
            )}
          </Typography>
        ))}
        {today.map(([key, by]) => (
          <Typography key={key}>Today {byText(key, by, lengthUnit)}; film again before the rest.</Typography>
        ))}
        <Box
          component="dl"
          sx={{
            m: 0,
            mt: 1,
            display: 'grid',
            gridTemplateColumns: '92px 1fr',
            columnGap: 1.5,
            rowGap: 0.5,
            '& dt': { color: 'text.secondary' },
            '& dd': { m: 0 },
          }}
        >
          <Term name="Why" items={line.why} />
          {!rejected && (
            <Term
              name="Foretold"
              items={effects(line, before).map((f) => {
                const m = measures.find((q) => q.key === f.key);
                return `${MEASURE_NAMES[f.key].toLowerCase()} ${foretoldText(f, m?.unit ?? '°', jointConvention)}, ${VERDICT_WORDS[f.verdict]}`;
              })}
            />
          )}
          <Term name="Carries over" items={line.knockOn} />
          <Term name="Steps" items={line.steps ? [line.steps] : []} />
          <Term name="Then check" items={[line.check]} />
          <Term name="Mind" items={line.risk} />
          <Term name="Goes with it" items={[...new Set(line.vanishes)]} />
          <Term name="Instead" items={line.instead ? [line.instead] : []} />
        </Box>
        {mode === 'edit' && (
          <EditLine
            line={line}
            bike={bike}
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
              onDecide({ key: line.key, state: 'rejected', moves: line.moves, reason });
            }}
          />
        )}
        {mode === 'show' && (
          <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1 }} className="no-print">
            {decision ? (
              <Button variant="outlined" onClick={() => onDecide(null)}>
                {rejected ? 'Take it back in' : 'Open it again'}
              </Button>
            ) : (
              <Button
                variant="contained"
                onClick={() => onDecide({ key: line.key, state: 'accepted', moves: line.moves, reason: '' })}
              >
                Accept
              </Button>
            )}
            <Button variant="outlined" onClick={() => setMode('edit')}>
              Edit
            </Button>
            {!rejected && (
              <Button variant="outlined" onClick={() => setMode('reject')}>
                Reject
              </Button>
            )}
            {!rejected && !done && (
              <Button variant="text" onClick={() => onDone(line.today)}>
                Done on the bike
              </Button>
            )}
          </Box>
        )}
      </Box>
    </Box>
  );
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

/** Other figures for a line: what follows it is solved again. */
function EditLine({
  line,
  bike,
  onCancel,
  onDecide,
}: {
  line: PlanLine;
  bike: BikeSetup;
  onCancel: () => void;
  onDecide: (d: Decision) => void;
}) {
  const [moves, setMoves] = useState<Moves>(line.moves);
  return (
    <Box sx={{ border: 1, borderColor: 'divider', p: 1.5, mt: 1 }}>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', mb: 1.5, mt: 0.5 }}>
        {(Object.keys(line.moves) as ControlKey[]).map((key) => (
          <Box key={key} sx={{ width: 190 }}>
            <ControlField
              control={key}
              label={`${CONTROLS[key].name}, to`}
              from={standsAt(bike, key)}
              by={moves[key] ?? 0}
              onChange={(by) => setMoves({ ...moves, [key]: by })}
            />
          </Box>
        ))}
      </Box>
      <Button
        variant="contained"
        onClick={() => onDecide({ key: line.key, state: 'edited', moves, reason: '' })}
        sx={{ mr: 1 }}
      >
        Use these
      </Button>
      <Button onClick={onCancel}>Cancel</Button>
    </Box>
  );
}

function RejectLine({ onCancel, onReject }: { onCancel: () => void; onReject: (reason: string) => void }) {
  const [reason, setReason] = useState('');
  const [missing, setMissing] = useState(false);
  const go = (): void => (reason.trim() ? onReject(reason.trim()) : setMissing(true));
  return (
    <Box sx={{ border: 1, borderColor: 'divider', p: 1.5, mt: 1, display: 'flex', gap: 1, flexWrap: 'wrap' }}>
      <TextField
        label="Why not"
        size="small"
        autoFocus
        value={reason}
        onChange={(e) => {
          setReason(e.target.value);
          setMissing(false);
        }}
        onKeyDown={(e) => e.key === 'Enter' && go()}
        error={missing}
        helperText={missing ? 'A word or two: the next visit will want to know.' : undefined}
        slotProps={{ htmlInput: { maxLength: 500 } }}
        sx={{ flex: 1, minWidth: 220 }}
      />
      <Button variant="contained" onClick={go}>
        Reject it
      </Button>
      <Button onClick={onCancel}>Cancel</Button>
    </Box>
  );
}

/** Nothing to do is an answer. */
export function LeaveAlone() {
  return (
    <Alert severity="info" variant="outlined" sx={{ fontSize: '1.1rem' }}>
      Every measure is in its band or at its edge, and nothing hurts. Leave it alone.
    </Alert>
  );
}
