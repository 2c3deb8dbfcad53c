import Add from '@mui/icons-material/Add';
import Remove from '@mui/icons-material/Remove';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import Slider from '@mui/material/Slider';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
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
import { ControlField } from '../../../ui/ControlField';
import { byText } from '../../../ui/words/moveText';
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
      {stage === 'saddle' && <SaddleModel bike={bike} parts={parts} moves={moves} onSettle={onSettle} />}
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
function SaddleModel({
  bike,
  parts,
  moves,
  onSettle,
}: {
  bike: BikeSetup;
  parts: readonly Part[];
  moves: Moves;
  onSettle: (key: ControlKey, by: number) => void;
}) {
  const now = bike.saddle.widthMm;
  const saddles = parts.filter((p) => p.kind === 'saddle' && p.widthMm !== null && p.count > 0);
  if (now === null || saddles.length === 0) return null;
  const wanted = now + (moves.saddleWidth ?? 0);
  const chosen = moves.saddleWidth ? saddles.find((p) => p.widthMm === wanted) : undefined;
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
}

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
  const fine = unit === 'mm' && step > 1 && key !== 'crank' ? 1 : step;
  return (
    <Box role="group" aria-label={name} sx={{ borderBottom: 1, borderColor: 'divider', py: 0.75 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between', gap: 1 }}>
        <Typography sx={{ fontWeight: by ? 650 : 400 }}>{name}</Typography>
        <Typography variant="body2" color={by ? 'primary.main' : 'textSecondary'} data-testid={`by-${key}`}>
          {by ? byText(key, by, lengthUnit) : from === null ? 'not measured' : 'as it is'}
        </Typography>
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
        <IconButton aria-label={`${name}: ${CONTROLS[key].words[0]}`} onClick={() => to(by - step)}>
          <Remove />
        </IconButton>
        <Slider
          aria-label={name}
          size="small"
          value={by}
          min={least}
          max={most}
          step={fine}
          track={false}
          marks={[{ value: 0 }]}
          onChange={(_, v) => onMove(key, v as number)}
          onChangeCommitted={(_, v) => onSettle(key, v as number)}
          sx={{ mx: 1, '& .MuiSlider-thumb': { transition: 'none' } }}
        />
        <IconButton aria-label={`${name}: ${CONTROLS[key].words[1]}`} onClick={() => to(by + step)}>
          <Add />
        </IconButton>
        {unit !== '' && (
          <Box sx={{ width: 122, flexShrink: 0 }}>
            <ControlField
              control={key}
              label={from === null ? 'change' : 'to'}
              from={from}
              by={by}
              onChange={to}
            />
          </Box>
        )}
      </Box>
    </Box>
  );
});
