import Box from '@mui/material/Box';
import { asReported } from '../../../core/report/position.ts';
import Typography from '@mui/material/Typography';
import { Link } from 'react-router';
import type { HistoryEntry } from '../../../core/report/history.ts';
import type { Coordinate } from '../../../core/report/position.ts';
import { lengthWithUnit } from '../../../core/units/length.ts';
import { useStudio } from '../../session/useStudio';
import { dayText } from '../../ui/words/dates';

/** The coordinates that a position is distinguished by at a glance. */
const SHOWN = ['height', 'setback80', 'tilt', 'fromNose', 'hoodDrop', 'stem', 'spacers', 'barWidth', 'crank'];

/** A rider's positions and complaints through the years, the newest first, on one upright rule. */
export function Timeline({ entries }: { entries: readonly HistoryEntry[] }) {
  const { lengthUnit } = useStudio();
  const show = (v: number | null, unit: Coordinate['unit']): string =>
    v === null
      ? 'open'
      : unit === 'mm'
        ? lengthWithUnit(Math.round(2 * v) / 2, lengthUnit)
        : `${Math.round(10 * v) / 10}${unit}`.replace('-', '−');
  return (
    <Box
      component="ol"
      aria-label="Timeline"
      sx={{ listStyle: 'none', m: 0, p: 0, borderLeft: 2, borderColor: 'text.primary' }}
    >
      {[...entries].reverse().map((e) => (
        <Box
          key={e.sessionId}
          component="li"
          sx={{
            position: 'relative',
            pl: 2.5,
            pb: 2.5,
            '&::before': {
              content: '""',
              position: 'absolute',
              left: 0,
              top: 12,
              width: 14,
              height: '2px',
              bgcolor: e.handedOver ? 'primary.main' : 'text.primary',
            },
          }}
        >
          <Typography sx={{ fontWeight: 640, fontSize: '1.1rem' }}>
            <Link to={`/sessions/${e.sessionId}`} style={{ color: 'inherit' }}>
              {dayText(e.startedIso)}
            </Link>{' '}
            <Typography component="span" color="textSecondary">
              {e.bikeName}
              {e.rounds > 1 && `, ${e.rounds} rounds`}
              {e.handedOver ? ', handed over' : ', not handed over'}
            </Typography>
          </Typography>
          <Typography>
            {e.complaints.length === 0
              ? 'Nothing hurt'
              : e.complaints.map((c) => `${c.name} ${c.severity === 0 ? 'resolved' : c.severity}`).join('; ')}
          </Typography>
          <Box
            component="dl"
            sx={{
              m: 0,
              mt: 0.5,
              display: 'grid',
              gridTemplateColumns: 'repeat(auto-fill, minmax(150px, 1fr))',
              gap: 1,
              '& dt': { color: 'text.secondary', fontSize: '0.8rem', lineHeight: 1.2 },
              '& dd': { m: 0, fontWeight: 600 },
            }}
          >
            {SHOWN.flatMap((key) => {
              const c = e.coordinates.find((q) => q.key === key);
              const moved = c && e.moved.find((m) => m.name === c.name);
              // Where it was moved the sign says which way.
              const shown = c && (moved ? c : asReported(c));
              return c && shown
                ? [
                    <div key={key}>
                      <dt>{shown.name}</dt>
                      <dd>
                        {moved && (
                          <Box component="span" sx={{ fontWeight: 400, color: 'text.secondary' }}>
                            {show(moved.from, c.unit)} →{' '}
                          </Box>
                        )}
                        {show(shown.value, shown.unit)}
                      </dd>
                    </div>,
                  ]
                : [];
            })}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
