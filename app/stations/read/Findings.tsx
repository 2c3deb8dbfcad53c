import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import type { FrontalReading } from '../../../core/kinematics/frontalReading.ts';
import { notMeasured } from '../../../core/visit/notMeasured.ts';
import { type Sureness, type WorkedFinding } from '../../../core/protocol/findings.ts';
import type { MeasureReading, UncertaintyParts } from '../../../core/protocol/measures.ts';
import { MEASURE_REASONS } from '../../../core/protocol/protocols.ts';
import type { FitSession } from '../../../core/records/types.ts';
import type { Reading } from '../../../core/kinematics/read.ts';
import { conventionWord, quoted, type Convention } from '../../ui/words/angleText';
import { BandGauge } from '../../charts/BandGauge';
import { measureName, quotedBand } from '../../../core/protocol/convention.ts';
import { bandText } from '../../ui/words/bandText';
import { ProtocolChoice } from './ProtocolChoice';
import { StaticReadings } from './StaticReadings';
import { protocolOf } from '../../../core/visit/visitCase.ts';

const SURE: Record<Sureness, string> = {
  inside: '',
  open: 'within measurement error',
  sure: 'sure',
  'beyond-doubt': 'beyond doubt',
};

const number = (v: number, unit: '°' | 'mm'): string =>
  `${v.toFixed(unit === 'mm' ? 0 : 1).replace('-', '−')}${unit === 'mm' ? ' mm' : '°'}`;

/** “6.1° above the band, sure”. */
function outText(f: WorkedFinding, convention: Convention, what = 'it'): string {
  if (f.off === 0) return '';
  const turned = convention === 'inside' && conventionWord(f.key, convention) !== '';
  const above = turned ? f.off < 0 : f.off > 0;
  return `${number(Math.abs(f.off), f.unit)} ${above ? 'above' : 'below'} ${what}, ${SURE[f.sureness]}`;
}

const MOST_SHOWN = 3;

/** What a fitter looks at first: the three findings that are most surely out, each with the frame on which it shows. */
export function StandsOut({
  findings,
  convention,
  onSee,
}: {
  /** The most urgent first. */
  findings: readonly WorkedFinding[];
  convention: Convention;
  onSee: (frame: number) => void;
}) {
  const out = findings.filter((f) => f.off !== 0);
  return (
    <Box component="section" aria-label="What stands out" sx={{ mb: 1.5 }}>
      <Typography variant="h2">What stands out</Typography>
      {out.length === 0 && <Typography>Nothing: every figure is in its band.</Typography>}
      {out.slice(0, MOST_SHOWN).map((f) => (
        <Box key={f.key} sx={{ display: 'flex', alignItems: 'center', gap: 1, minHeight: 36, py: 0.5 }}>
          <Typography sx={{ flex: 1 }}>
            <strong>
              {measureName(f.key, convention)} {number(quoted(f.key, f.value, convention), f.unit)}
            </strong>
            : {outText(f, convention, 'its band')}
          </Typography>
          {f.frame >= 0 && (
            <Button
              size="small"
              aria-label={`Show the frame: ${measureName(f.key, convention)}`}
              onClick={() => onSee(f.frame)}
            >
              Frame {f.frame}
            </Button>
          )}
        </Box>
      ))}
      {out.length > MOST_SHOWN && (
        <Typography variant="body2" color="textSecondary">
          {out.length - MOST_SHOWN} more under Findings.
        </Typography>
      )}
    </Box>
  );
}

/** Every measure against its band: in words, how far out, how sure, and the frame on which it shows most. */
export function Findings({
  session,
  reading,
  frontal,
  findings,
  convention,
  onSee,
}: {
  session: FitSession;
  reading: Reading | null;
  frontal: FrontalReading | null;
  /** The most urgent first. */
  findings: readonly WorkedFinding[];
  convention: Convention;
  onSee: (frame: number) => void;
}) {
  const missing = useMemo(() => notMeasured(session, reading), [session, reading]);
  const protocol = protocolOf(session);
  return (
    <Box component="section" aria-label="Findings" sx={{ mt: 3 }}>
      <Typography variant="h2">Findings</Typography>
      <ProtocolChoice session={session} />
      {protocol.movedBy.length > 0 && (
        <Typography variant="body2" sx={{ mb: 1 }}>
          Bands moved for this rider: {protocol.movedBy.join('; ')}.
        </Typography>
      )}
      {findings.map((f) => (
        <Finding
          key={f.key}
          finding={f}
          convention={convention}
          why={protocol.reasons[f.key] || MEASURE_REASONS[f.key]}
          side={f.key === 'kneePathWidthMm' && frontal ? widerSide(frontal) : null}
          onSee={f.frame >= 0 ? () => onSee(f.frame) : null}
        />
      ))}
      <StaticReadings session={session} reading={reading} convention={convention} />
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

const widerSide = ({ legs }: FrontalReading): string =>
  legs.left.pathWidthMm.value > legs.right.pathWidthMm.value ? 'left, the wider' : 'right, the wider';

const PART_NAMES: Record<keyof UncertaintyParts, string> = {
  stickers: 'placing stickers on the bone',
  skin: 'skin sliding over the bone',
  ride: 'off the bike and on again',
  localisation: 'locating them in the film',
  level: 'camera level',
  picture: 'perspective and yaw',
  strokes: 'stroke to stroke',
};

/** What a ± is made of: each part as its own 95 %, and what remains of it for a change. */
export function Breakdown({
  parts,
  uncertainty,
  change,
  unit,
}: Pick<MeasureReading, 'parts' | 'uncertainty' | 'change' | 'unit'>) {
  const u = unit === 'mm' ? ' mm' : '°';
  const digits = unit === 'mm' ? 1 : 2;
  return (
    <Box>
      <Typography variant="h3" component="p">
        ± {uncertainty.toFixed(1)}
        {u}, 95 %
      </Typography>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 0.5 }}>
        For a change with the stickers left on, rider off and on again: ±{'\u00a0'}
        {change.toFixed(1)}
        {u}.
      </Typography>
      {(Object.keys(PART_NAMES) as (keyof UncertaintyParts)[]).map((key) => (
        <Typography key={key} variant="body2" sx={{ display: 'flex', justifyContent: 'space-between' }}>
          <span>{PART_NAMES[key]}</span>
          <span>
            {(1.96 * parts[key]).toFixed(digits)}
            {u}
          </span>
        </Typography>
      ))}
    </Box>
  );
}

function Finding({
  finding: f,
  convention,
  why,
  side,
  onSee,
}: {
  finding: WorkedFinding;
  convention: Convention;
  why: string;
  side: string | null;
  onSee: (() => void) | null;
}) {
  const [open, setOpen] = useState(false);
  const banded = f.band.low !== null || f.band.high !== null;
  return (
    <Box data-testid={`measure-${f.key}`} sx={{ borderTop: 1, borderColor: 'divider', py: 0.75 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        <Typography sx={{ flex: 1 }}>
          {measureName(f.key, convention)}
          {side && `, ${side}`} <strong>{number(quoted(f.key, f.value, convention), f.unit)}</strong>{' '}
          <Button
            size="small"
            aria-expanded={open}
            aria-label={`What is behind the ± of ${measureName(f.key, convention)}`}
            onClick={() => setOpen(!open)}
            sx={{ minWidth: 0, px: 0.5, py: 0, font: 'inherit', color: 'text.secondary' }}
          >
            ± {f.uncertainty.toFixed(f.unit === 'mm' && f.uncertainty >= 2 ? 0 : 1)}
          </Button>
          {f.provisional && ' provisional'}
          {f.estimated && ' estimated'}
        </Typography>
        {onSee && (
          <Button size="small" onClick={onSee} aria-label={`See ${measureName(f.key, convention)}`}>
            See it
          </Button>
        )}
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, flexWrap: 'wrap' }}>
        {banded && (
          <BandGauge
            value={f.value}
            uncertainty={f.uncertainty}
            band={f.band}
            verdict={f.verdict}
            of={{ key: f.key, convention }}
          />
        )}
        <Typography variant="body2" color="textSecondary">
          {banded ? bandText(quotedBand(f.key, f.band, convention), f.unit) : 'no band in this protocol'}
          {f.off !== 0 && `: ${outText(f, convention)}`}
        </Typography>
      </Box>
      {open && (
        <Box sx={{ pl: 1.5, my: 0.5, borderLeft: 3, borderColor: 'divider' }}>
          <Breakdown {...f} />
          <Typography variant="body2" sx={{ mt: 0.5 }}>
            {why}
          </Typography>
        </Box>
      )}
    </Box>
  );
}
