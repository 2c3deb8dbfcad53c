import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { measureName } from '../../../core/protocol/convention.ts';
import { fieldName, fieldUnit } from '../../../core/bike/fields.ts';
import { type MeasureKey } from '../../../core/protocol/protocols.ts';
import type { FitSession } from '../../../core/records/types.ts';
import type { Ridden } from '../../../core/kinematics/ridden.ts';
import type { Reading } from '../../../core/kinematics/read.ts';
import { measuredOver, sweepOf, sweptPlaces } from '../../../core/plan/terms/sweep.ts';
import { quoted } from '../../ui/words/angleText';
import { ChartTools } from '../../charts/ChartTools';
import { LadderChart, type LadderLine } from './LadderChart';
import { useStudio } from '../../session/useStudio';
import { predictedAt, standsIn, useTrialModel } from './useTrialModel';

/** What was read on a setting by a device. */
const READ: readonly (readonly [keyof Ridden, string, string])[] = [
  ['powerW', 'Power', 'W'],
  ['cadenceRpm', 'Cadence', 'rpm'],
  ['leftPercent', 'Left leg', '%'],
  ['saddleFrontPercent', 'Saddle, front', '%'],
  ['saddleLeftPercent', 'Saddle, left', '%'],
  ['saddlePeakKPa', 'Saddle, peak', 'kPa'],
];

/** One setting stepped through: the rider's word and a measure against it in one chart, with the plateau and where it turns. */
export function StepLadder({ session, reading }: { session: FitSession; reading: Reading | null }) {
  const { jointConvention } = useStudio();
  const places = useMemo(() => sweptPlaces(session.changes), [session.changes]);
  const [setting, setSetting] = useState<string | null>(null);
  const [measure, setMeasure] = useState<string>('kneeFlexionMinDeg');
  const at = setting && places.includes(setting) ? setting : (places[0] ?? null);
  const sweep = useMemo(
    () => (at ? sweepOf(session.asFound, session.changes, at) : null),
    [session.asFound, session.changes, at],
  );
  const model = useTrialModel(session, reading);
  const line = useMemo((): LadderLine | null => {
    if (!sweep) return null;
    const read = READ.find(([key]) => key === measure);
    if (read) {
      const points = sweep.points.flatMap((p) => {
        const v = p.ridden?.[read[0]] ?? null;
        return v === null ? [] : [{ setting: p.setting, value: v }];
      });
      return { name: read[1], unit: read[2], points, band: null, filmedAt: null, measured: [] };
    }
    const m = model?.measures.find((q) => q.key === measure);
    const from = model && standsIn(model, sweep.at);
    if (!model || !m || from === null) return null;
    const points = [...new Set([...sweep.points.map((p) => p.setting), from])]
      .sort((a, b) => a - b)
      .flatMap((setting) => {
        const value = predictedAt(model, m, { at: sweep.at, setting });
        return value === null ? [] : [{ setting, value: quoted(m.key, value, jointConvention) }];
      });
    const ends = [m.band.low, m.band.high]
      .map((v) => (v === null ? null : quoted(m.key, v, jointConvention)))
      .sort((a, b) => (a ?? -Infinity) - (b ?? -Infinity));
    return {
      name: measureName(m.key as MeasureKey, jointConvention),
      unit: m.unit,
      points,
      band: { low: ends[0], high: ends[1] },
      filmedAt: { setting: from, value: quoted(m.key, m.value, jointConvention) },
      measured: measuredOver(session.changes, sweep.at, m.key).map((p) => ({
        ...p,
        value: quoted(m.key, p.value, jointConvention),
      })),
    };
  }, [sweep, measure, model, jointConvention, session.changes]);
  if (!at || !sweep)
    return (
      <Box sx={{ p: 4, maxWidth: 640, mx: 'auto' }}>
        <Typography variant="h1">No steps yet</Typography>
        <Typography>
          Step one setting on Changes, asking the rider after each: height, setback, tilt, whichever. The
          words line up here against the setting.
        </Typography>
      </Box>
    );
  const unit = fieldUnit(at);
  const text = (v: number): string => `${String(v).replace('-', '−')}${unit === '°' ? '°' : ` ${unit}`}`;
  const { plateau, turnsAt } = sweep;
  return (
    <Box sx={{ p: { xs: 2, md: 3 }, maxWidth: 1000, mx: 'auto' }}>
      <Box sx={{ display: 'flex', gap: 2, mb: 2, flexWrap: 'wrap' }}>
        <TextField
          select
          size="small"
          label="Which setting"
          value={at}
          onChange={(e) => setSetting(e.target.value)}
          sx={{ minWidth: 260 }}
        >
          {places.map((p) => (
            <MenuItem key={p} value={p}>
              {fieldName(p)}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          size="small"
          label="Compare with"
          value={measure}
          onChange={(e) => setMeasure(e.target.value)}
          sx={{ minWidth: 260 }}
        >
          {(model?.measures ?? [])
            .filter((m) => m.key !== 'kneePathWidthMm' && m.key !== 'hipVerticalTravelMm')
            .map((m) => (
              <MenuItem key={m.key} value={m.key}>
                {measureName(m.key, jointConvention)}
              </MenuItem>
            ))}
          {READ.map(([key, name]) => (
            <MenuItem key={key} value={key}>
              {name}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      <Typography sx={{ fontSize: '1.5rem', fontWeight: 620 }} data-testid="ladder-answer">
        {plateau === null
          ? 'Two words at least are needed'
          : plateau.from === plateau.to
            ? `Best at ${text(plateau.from)}`
            : `Best from ${text(plateau.from)} to ${text(plateau.to)}`}
        {turnsAt !== null && `; turns at ${text(turnsAt)}`}
      </Typography>
      <Typography color="textSecondary" sx={{ mb: 1 }}>
        {fieldName(at)}. The steps’ line counts each “better” up and each “worse” down, from the setting it
        was moved from.
        {line?.filmedAt &&
          ` ${line.name}: filmed at the dot, predicted along the dashes${line.measured.length > 0 ? ', measured live at the squares' : ''}.`}
      </Typography>
      <ChartTools name={`${session.id}-ladder`}>
        <LadderChart sweep={sweep} unit={unit} line={line} />
      </ChartTools>
    </Box>
  );
}
