import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { protocolOf } from '../../../core/visit/visitCase.ts';
import { staticKneeBand } from '../../../core/plan/terms/bySchool.ts';
import { judge } from '../../../core/protocol/judge.ts';
import {
  DYNAMIC_READS_MORE_DEG,
  STATIC_AT,
  STATIC_KEYS,
  type StaticKey,
  type StaticReading,
  GONIOMETER_SD_DEG,
} from '../../../core/body/statics.ts';
import { STATIC_ANGLE } from '../../../core/body/staticsSchema.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { ANGLE_NAMES } from '../../../core/kinematics/angles.ts';
import type { Reading } from '../../../core/kinematics/read.ts';
import { verdictWords } from '../../../core/protocol/convention.ts';
import { conventionWord, degrees, quoted, type Convention } from '../../ui/words/angleText';
import { NumberField } from '../../ui/fields/NumberField';
import { useEdit } from '../../session/useEdit';

/** What the film reads at the place where the goniometer is held. */
function filmed(reading: Reading, key: StaticKey): number | null {
  const a = reading.angles[key];
  if (!a) return null;
  const { of } = STATIC_AT[key];
  return of === 'min' ? a.min : of === 'mean' ? a.curve.mean : a.at['90'];
}

const SIDES: readonly (readonly [keyof StaticReading, string])[] = [
  ['left', 'left'],
  ['right', 'right'],
];

/** Goniometer readings of a rider who holds still, beside what the film reads of one who pedals. */
export function StaticReadings({
  session,
  reading,
  convention,
}: {
  session: FitSession;
  reading: Reading | null;
  convention: Convention;
}) {
  const { edit } = useEdit();
  const { statics } = session;
  const any = STATIC_KEYS.some((k) => Object.values(statics[k]).some((v) => v !== null));
  const [open, setOpen] = useState(any);
  const side = reading?.map.facing === 'left' ? 'left' : 'right';
  return (
    <Box component="section" aria-label="Goniometer readings" sx={{ mt: 2 }}>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1 }}>
        <Typography variant="h3" sx={{ flex: 1 }}>
          Standing still, by goniometer
        </Typography>
        <Button size="small" onClick={() => setOpen(!open)} aria-expanded={open}>
          {open ? 'Fold away' : 'Enter readings'}
        </Button>
      </Box>
      {open &&
        STATIC_KEYS.map((key) => {
          const read = statics[key];
          const sides: typeof SIDES = key === 'backAngleDeg' ? [['both', 'trunk']] : SIDES;
          const held = read.both ?? read[side];
          const film = reading ? filmed(reading, key) : null;
          return (
            <Box key={key} sx={{ borderTop: 1, borderColor: 'divider', py: 1 }}>
              <Typography variant="body2" sx={{ mb: 0.75 }}>
                <strong>{ANGLE_NAMES[key]}</strong>
                {conventionWord(key, convention) && ` ${conventionWord(key, convention)}`},{' '}
                {STATIC_AT[key].words}
              </Typography>
              <Box sx={{ display: 'flex', gap: 1, alignItems: 'flex-start', flexWrap: 'wrap' }}>
                {sides.map(([at, name]) => (
                  <Box key={at} sx={{ width: 112 }}>
                    <NumberField
                      optional
                      label={`${ANGLE_NAMES[key]}, ${name}`}
                      unit="°"
                      value={read[at] === null ? null : quoted(key, read[at]!, convention)}
                      schema={STATIC_ANGLE}
                      onChange={(v) =>
                        void edit({
                          kind: 'set',
                          at: `statics.${key}.${at}`,
                          value: v === null ? null : quoted(key, v, convention),
                        })
                      }
                    />
                  </Box>
                ))}
                {film !== null && (
                  <Typography variant="body2" color="textSecondary" data-testid={`static-${key}`}>
                    filmed{key === 'backAngleDeg' ? '' : `, ${side}`}{' '}
                    <strong>{degrees(quoted(key, film, convention))}</strong>
                    {held !== null &&
                      `: ${degrees(Math.abs(film - held))} ${film > held ? 'more' : 'less'} than held`}
                    {held !== null && conventionWord(key, convention) === 'inside' && ' bend'}
                  </Typography>
                )}
              </Box>
              {key === 'kneeFlexionDeg' && held !== null && (
                <KneeNote
                  held={held}
                  film={film}
                  moved={protocolOf(session).kneeMovedDeg}
                  convention={convention}
                />
              )}
            </Box>
          );
        })}
    </Box>
  );
}

/** The static protocol's word on the knee, and whether the film reads as much more as it usually does. */
function KneeNote({
  held,
  film,
  moved,
  convention,
}: {
  held: number;
  film: number | null;
  moved: number;
  convention: Convention;
}) {
  const bend = staticKneeBand(moved);
  const band = [bend.low, bend.high].map((v) => quoted('kneeFlexionDeg', v, convention));
  const { least, most } = DYNAMIC_READS_MORE_DEG;
  const more = film === null ? null : film - held;
  const own = moved === 0 ? '' : `, ${Math.abs(moved)}° ${moved > 0 ? 'more' : 'less'} bend for this rider`;
  return (
    <Typography variant="body2" sx={{ mt: 0.5 }}>
      Static band {Math.min(...band)} to {Math.max(...band)}°{own}:{' '}
      {verdictWords('kneeFlexionMinDeg', judge(held, 1.96 * GONIOMETER_SD_DEG, bend), convention)}. A filmed
      knee usually reads {least} to {most}° more bend
      {more !== null &&
        (more >= least - 3 && more <= most + 3
          ? ', and does here.'
          : ': here it does not. See whether the foot was held as it pedals, and the goniometer’s ends.')}
      {more === null && '.'}
    </Typography>
  );
}
