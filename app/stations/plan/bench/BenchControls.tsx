import Add from '@mui/icons-material/Add';
import Remove from '@mui/icons-material/Remove';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import Slider from '@mui/material/Slider';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import TextField from '@mui/material/TextField';
import { styled } from '@mui/material/styles';
import { memo, useCallback, useState } from 'react';
import type { Part } from '../../../../core/bike/parts.ts';
import type { BikeSetup } from '../../../../core/bike/setup.ts';
import {
  CONTROL_KEYS,
  CONTROLS,
  type ControlKey,
  type Stage,
} from '../../../../core/plan/controls/controlTable.ts';
import { standsAt, type Moves } from '../../../../core/plan/controls/controls.ts';
import { ControlField } from '../../../ui/fields/ControlField';
import { byText } from '../../../ui/words/moveText';
import { READ_MS, useAtMostEvery } from '../../../ui/useAtMostEvery';
import { useStudio } from '../../../session/useStudio';

const STAGES: readonly (readonly [Stage, string])[] = [
  ['feet', 'Feet'],
  ['saddle', 'Saddle'],
  ['cockpit', 'Cockpit'],
];

/** Everything that can be moved, in the handbook's steps, by slider, button or typed value. */
export function BenchControls({
  bike,
  parts,
  moves,
  onMove,
  onSettle,
}: {
  bike: BikeSetup;
  parts: readonly Part[];
  moves: Moves;
  /** While it is being dragged. */
  onMove: (key: ControlKey, by: number) => void;
  /** When it has come to rest. */
  onSettle: (key: ControlKey, by: number) => void;
}) {
  const [stage, setStage] = useState<Stage>('saddle');
  const shown = CONTROL_KEYS.filter(
    (key) => CONTROLS[key].stage === stage && (!key.startsWith('pad') || bike.extensions !== null),
  );
  const touchedIn = (s: Stage): number =>
    CONTROL_KEYS.filter((key) => CONTROLS[key].stage === s && (moves[key] ?? 0) !== 0).length;
  return (
    <Box component="section" aria-label="What can be moved">
      <Stages
        stage={stage}
        feet={touchedIn('feet')}
        saddle={touchedIn('saddle')}
        cockpit={touchedIn('cockpit')}
        onStage={setStage}
      />
      {stage === 'saddle' && (
        <SaddleModel bike={bike} parts={parts} widerMm={moves.saddleWidth ?? 0} onSettle={onSettle} />
      )}
      {shown.map((key) => (
        <Row
          key={key}
          control={key}
          from={standsAt(bike, key)}
          by={moves[key] ?? 0}
          onMove={onMove}
          onSettle={onSettle}
        />
      ))}
    </Box>
  );
}

/** Feet, saddle, cockpit, each with how many of its controls are moved. Tabs measure themselves whenever they are drawn. */
const Stages = memo(function Stages({
  stage,
  onStage,
  ...moved
}: { stage: Stage; onStage: (stage: Stage) => void } & Record<Stage, number>) {
  return (
    <Tabs value={stage} onChange={(_, v: Stage) => onStage(v)} variant="fullWidth" sx={{ mb: 1 }}>
      {STAGES.map(([key, name]) => (
        <Tab key={key} value={key} label={moved[key] ? `${name} (${moved[key]})` : name} />
      ))}
    </Tabs>
  );
});

/** A saddle from the parts bin: its width goes on the bench. Its own height and length are set on the bike, at its 80 mm width. */
const SaddleModel = memo(function SaddleModel({
  bike,
  parts,
  widerMm,
  onSettle,
}: {
  bike: BikeSetup;
  parts: readonly Part[];
  widerMm: number;
  onSettle: (key: ControlKey, by: number) => void;
}) {
  const now = bike.saddle.widthMm;
  const saddles = parts.filter((p) => p.kind === 'saddle' && p.widthMm !== null && p.count > 0);
  if (now === null || saddles.length === 0) return null;
  const wanted = now + widerMm;
  const chosen = widerMm ? saddles.find((p) => p.widthMm === wanted) : undefined;
  return (
    <TextField
      select
      fullWidth
      size="small"
      label="Saddle"
      value={chosen?.id ?? ''}
      onChange={(e) => {
        const part = saddles.find((p) => p.id === e.target.value);
        onSettle('saddleWidth', part ? part.widthMm! - now : 0);
      }}
      slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
      sx={{ mt: 1, mb: 0.5 }}
    >
      <MenuItem value="">{bike.saddle.model || 'the one on the bike'}</MenuItem>
      {saddles
        .filter((p) => p.widthMm !== now)
        .map((p) => (
          <MenuItem key={p.id} value={p.id}>
            {p.name}, {p.widthMm} mm
          </MenuItem>
        ))}
    </TextField>
  );
});

/** Styled as a whole: every movement of a slider draws it. */
const RowFrame = styled('div')(({ theme }) => ({
  ...theme.typography.body1,
  borderBottom: `1px solid ${theme.palette.divider}`,
  padding: '6px 0',
  '& .line': { display: 'flex', alignItems: 'baseline', justifyContent: 'space-between', gap: 8 },
  '& .moved': { fontWeight: 650 },
  '& .by': { ...theme.typography.body2, color: theme.palette.text.secondary },
  '& .by.moved': { color: theme.palette.primary.main },
  '& .reach': { display: 'flex', alignItems: 'center', gap: 4 },
  '& .to': { width: 122, flexShrink: 0 },
}));

const RowSlider = styled(Slider)({ margin: '0 8px', '& .MuiSlider-thumb': { transition: 'none' } });

const AS_IT_IS = [{ value: 0 }];

/** A press moves a control by a step. */
const Nudge = memo(function Nudge({
  control: key,
  by,
  isMore = false,
  onMove,
}: {
  control: ControlKey;
  /** Where to. */
  by: number;
  isMore?: boolean;
  onMove: (by: number) => void;
}) {
  const { name, words } = CONTROLS[key];
  return (
    <IconButton aria-label={`${name}: ${words[isMore ? 1 : 0]}`} onClick={() => onMove(by)}>
      {isMore ? <Add /> : <Remove />}
    </IconButton>
  );
});

const Row = memo(function Row({
  control: key,
  from,
  by,
  onMove,
  onSettle,
}: {
  control: ControlKey;
  from: number | null;
  by: number;
  onMove: (key: ControlKey, by: number) => void;
  onSettle: (key: ControlKey, by: number) => void;
}) {
  const { lengthUnit } = useStudio();
  const { name, unit, step, least, most } = CONTROLS[key];
  const to = useCallback(
    (v: number) => onSettle(key, Math.min(most, Math.max(least, v))),
    [key, onSettle, least, most],
  );
  // What stands beside the slider follows as fast as it can be read.
  const settledBy = useAtMostEvery(READ_MS, by);
  const fine = unit === 'mm' && step > 1 && key !== 'crank' ? 1 : step;
  return (
    <RowFrame role="group" aria-label={name}>
      <div className="line">
        <span className={by ? 'moved' : undefined}>{name}</span>
        <span className={by ? 'by moved' : 'by'} data-testid={`by-${key}`}>
          {by ? byText(key, by, lengthUnit) : from === null ? 'not measured' : 'as it is'}
        </span>
      </div>
      <div className="reach">
        <Nudge control={key} by={settledBy - step} onMove={to} />
        <RowSlider
          aria-label={name}
          size="small"
          value={by}
          min={least}
          max={most}
          step={fine}
          track={false}
          marks={AS_IT_IS}
          onChange={(_, v) => onMove(key, v as number)}
          onChangeCommitted={(_, v) => onSettle(key, v as number)}
        />
        <Nudge control={key} by={settledBy + step} onMove={to} isMore />
        {unit !== '' && (
          <div className="to">
            <ControlField
              control={key}
              label={from === null ? 'change' : 'to'}
              from={from}
              by={settledBy}
              onChange={to}
            />
          </div>
        )}
      </div>
    </RowFrame>
  );
});
