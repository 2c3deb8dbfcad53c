import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import dayjs from 'dayjs';
import { memo } from 'react';
import { Link } from 'react-router';
import { protocolById } from '../../core/prescribe/protocols.ts';
import type { RiderRow as Row } from '../../core/records/summaries.ts';
import { dueText } from './dueText';

export const RIDER_COLUMNS = { xs: '1fr', md: 'minmax(0, 1fr) 150px 160px 190px 160px' };

/** How far the newest visit has got, as ticks on a rule. */
function Ticks({ ready }: { ready: readonly boolean[] }) {
  return (
    <svg width="150" height="21" aria-hidden style={{ display: 'block' }}>
      <line x1="0" x2="150" y1="20.5" y2="20.5" stroke="currentColor" />
      {ready.map((done, k) => (
        <line
          key={k}
          x1={3 + 17 * k}
          x2={3 + 17 * k}
          y1={done ? 2 : 13}
          y2="20"
          stroke={done ? 'var(--tick)' : 'currentColor'}
          strokeWidth={done ? 3 : 1}
        />
      ))}
    </svg>
  );
}

/** A rider in the list: who, when last, when next, what hurts, how far. */
export const RiderRow = memo(function RiderRow({ row, today }: { row: Row; today: string }) {
  const { rider, visit, nextDue } = row;
  const due = nextDue === null ? null : dueText(nextDue, today);
  return (
    <Box
      component="li"
      sx={{ borderBottom: 1, borderColor: 'divider', display: 'flex', alignItems: 'center' }}
    >
      <Box
        component={visit ? Link : 'div'}
        {...(visit && { to: `/sessions/${visit.id}` })}
        sx={{
          flex: 1,
          minWidth: 0,
          display: 'grid',
          gridTemplateColumns: RIDER_COLUMNS,
          gap: { xs: 0.5, md: 3 },
          py: 1.75,
          px: 1.5,
          color: 'text.primary',
          textDecoration: 'none',
          '--tick': (t) => t.palette.primary.main,
          '&:hover': { bgcolor: 'action.hover' },
          '&:focus-visible': { outline: '2px solid', outlineColor: 'primary.main' },
        }}
      >
        <div style={{ minWidth: 0 }}>
          <Typography variant="h2" component="h2" noWrap title={rider.name}>
            {rider.name}
          </Typography>
          <Typography color="text.secondary">{rider.note}</Typography>
        </div>
        <div>
          <Typography>{visit ? dayjs(visit.startedIso).format('D MMM YYYY') : 'no visit'}</Typography>
          <Typography variant="body2" color="text.secondary">
            {visit && protocolById(visit.protocolId).name}
          </Typography>
        </div>
        <div>
          {due ? (
            <>
              <Typography sx={{ fontWeight: due.late ? 640 : 400 }}>{due.day}</Typography>
              <Typography variant="body2" color="text.secondary">
                {due.words}
              </Typography>
            </>
          ) : (
            <Typography color="text.secondary">no follow-up</Typography>
          )}
        </div>
        <div>
          {visit?.complaints.slice(0, 2).map((c) => (
            <Typography key={c.name} variant="body2">
              {c.name} <strong>{c.severity}</strong>
            </Typography>
          ))}
          {visit && visit.complaints.length > 2 && (
            <Typography variant="body2" color="text.secondary">
              and {visit.complaints.length - 2} more
            </Typography>
          )}
          {visit?.complaints.length === 0 && (
            <Typography variant="body2" color="text.secondary">
              nothing open
            </Typography>
          )}
        </div>
        <div>
          <Ticks ready={visit?.ready ?? []} />
          <Typography variant="body2" color="text.secondary">
            {visit?.next ? `next: ${visit.next.toLowerCase()}` : 'ready to plan'}
          </Typography>
        </div>
      </Box>
      <Button component={Link} to={`/riders/${rider.id}`} aria-label={`${rider.name}: visits and record`}>
        Record
      </Button>
    </Box>
  );
});
