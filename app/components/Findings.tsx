import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useMemo } from 'react';
import {
  notMeasured,
  workFindings,
  type Sureness,
  type WorkedFinding,
} from '../../core/prescribe/findings.ts';
import type { MeasureReading } from '../../core/prescribe/measures.ts';
import { MEASURE_NAMES, PROTOCOLS } from '../../core/prescribe/protocols.ts';
import type { FitSession } from '../../core/records/types.ts';
import type { Reading } from '../../core/stroke/read.ts';
import { conventionWord, quoted, type Convention } from './angleText';
import { BandGauge } from './BandGauge';
import { bandQuoted, bandText } from './bandText';
import { protocolOf } from './useCase';
import { useEdit } from './useEdit';

const SURE: Record<Sureness, string> = {
  inside: '',
  open: 'closer than the measurement can tell',
  sure: 'sure',
  'beyond-doubt': 'beyond doubt',
};

const number = (v: number, unit: '°' | 'mm'): string =>
  `${v.toFixed(unit === 'mm' ? 0 : 1).replace('-', '−')}${unit === 'mm' ? ' mm' : '°'}`;

/** “6.1° above the band, sure”. */
function outText(f: WorkedFinding, convention: Convention): string {
  if (f.off === 0) return '';
  const turned = convention === 'inside' && conventionWord(f.key, convention) !== '';
  const above = turned ? f.off < 0 : f.off > 0;
  return `${number(Math.abs(f.off), f.unit)} ${above ? 'above' : 'below'} it, ${SURE[f.sureness]}`;
}

/** Every measure against its band: in words, how far out, how sure, and the frame on which it shows most. */
export function Findings({
  session,
  reading,
  measures,
  convention,
  onSee,
}: {
  session: FitSession;
  reading: Reading;
  measures: readonly MeasureReading[];
  convention: Convention;
  onSee: (frame: number) => void;
}) {
  const { edit } = useEdit();
  const protocol = protocolOf(session);
  const findings = useMemo(() => workFindings(reading, measures), [reading, measures]);
  const missing = useMemo(() => notMeasured(session, reading), [session, reading]);
  // What is out comes first, the surest and the furthest.
  const order: Sureness[] = ['beyond-doubt', 'sure', 'open', 'inside'];
  const sorted = [...findings].sort(
    (a, b) =>
      order.indexOf(a.sureness) - order.indexOf(b.sureness) ||
      Math.abs(b.off / b.uncertainty) - Math.abs(a.off / a.uncertainty),
  );
  return (
    <Box component="section" aria-label="Findings" sx={{ mt: 3 }}>
      <Typography variant="h2">Findings</Typography>
      <ToggleButtonGroup
        exclusive
        size="small"
        value={protocol.id}
        aria-label="Protocol"
        onChange={(_, v: string | null) => v && void edit({ kind: 'protocol', protocolId: v })}
        sx={{ flexWrap: 'wrap', my: 1 }}
      >
        {PROTOCOLS.map((p) => (
          <ToggleButton key={p.id} value={p.id}>
            {p.name}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 1 }}>
        {protocol.reason}
      </Typography>
      {protocol.movedBy.length > 0 && (
        <Typography variant="body2" sx={{ mb: 1 }}>
          Bands moved for this rider: {protocol.movedBy.join('; ')}.
        </Typography>
      )}
      {sorted.map((f) => (
        <Box
          key={f.key}
          data-testid={`measure-${f.key}`}
          sx={{ borderTop: 1, borderColor: 'divider', py: 0.75 }}
        >
          <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
            <Typography sx={{ flex: 1 }}>
              {MEASURE_NAMES[f.key]} <strong>{number(quoted(f.key, f.value, convention), f.unit)}</strong> ±{' '}
              {f.uncertainty.toFixed(f.unit === 'mm' ? 0 : 1)}
              {reading.provisional && ', provisional'}
            </Typography>
            {f.frame >= 0 && (
              <Button size="small" onClick={() => onSee(f.frame)} aria-label={`See ${MEASURE_NAMES[f.key]}`}>
                See it
              </Button>
            )}
          </Box>
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, flexWrap: 'wrap' }}>
            <BandGauge value={f.value} uncertainty={f.uncertainty} band={f.band} verdict={f.verdict} />
            <Typography variant="body2" color="textSecondary">
              {bandText(bandQuoted(f.key, f.band, convention), f.unit)}
              {f.off !== 0 && `: ${outText(f, convention)}`}
            </Typography>
          </Box>
        </Box>
      ))}
      <Typography variant="h3" sx={{ mt: 2 }}>
        Not measured
      </Typography>
      <Box component="ul" sx={{ m: 0, pl: 2.5, typography: 'body2' }}>
        {missing.map((m) => (
          <li key={m.what}>
            {m.what}: {m.why}.
          </li>
        ))}
      </Box>
    </Box>
  );
}
