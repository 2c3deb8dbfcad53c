import { styled } from '@mui/material/styles';
import { memo } from 'react';
import { Link } from 'react-router';
import type { RiderRow as Row } from '../../../core/visit/summaries.ts';
import { isSampleRider } from '../../demo/samples';
import { dueText } from '../../ui/words/dueText';
import { dayText } from '../../ui/words/dates';

export const RIDER_COLUMNS = 'minmax(0, 1fr) 150px 160px 190px 160px';

/** The list, styled as a whole: a studio has thousands of rows, and each is plain elements. */
export const RiderList = styled('ul')(({ theme }) => ({
  listStyle: 'none',
  margin: 0,
  padding: 0,
  borderTop: `1px solid ${theme.palette.text.primary}`,
  '& li': { display: 'flex', alignItems: 'center', borderBottom: `1px solid ${theme.palette.divider}` },
  '& .row': {
    flex: 1,
    minWidth: 0,
    display: 'grid',
    gap: 4,
    padding: '14px 12px',
    color: theme.palette.text.primary,
    textDecoration: 'none',
    ...theme.typography.body1,
    [theme.breakpoints.up('md')]: { gridTemplateColumns: RIDER_COLUMNS, gap: 24 },
    // On a tablet two and two under the name.
    [theme.breakpoints.between('sm', 'md')]: {
      gridTemplateColumns: '1fr 1fr',
      columnGap: 24,
      '& > :first-child': { gridColumn: '1 / -1' },
    },
  },
  '& .record': {
    ...theme.typography.button,
    minWidth: 64,
    minHeight: 44,
    display: 'grid',
    placeItems: 'center',
    color: theme.palette.primary.main,
    textDecoration: 'none',
  },
  '& a:hover': { backgroundColor: theme.palette.action.hover },
  '& a:focus-visible': { outline: `2px solid ${theme.palette.primary.main}` },
  '& h2': {
    ...theme.typography.h2,
    margin: 0,
    overflow: 'hidden',
    textOverflow: 'ellipsis',
    whiteSpace: 'nowrap',
  },
  '& p': { margin: 0 },
  '& .small': theme.typography.body2,
  '& .label': {
    ...theme.typography.body2,
    color: theme.palette.text.secondary,
    [theme.breakpoints.up('md')]: { display: 'none' },
  },
  '& .quiet': { color: theme.palette.text.secondary },
  '& .late': { fontWeight: 640 },
  '& .head': { display: 'flex', alignItems: 'center' },
  '& .sample': {
    ...theme.typography.body2,
    marginLeft: 8,
    padding: '0 6px',
    border: `1px solid ${theme.palette.divider}`,
    color: theme.palette.text.secondary,
    flexShrink: 0,
  },
  '& .done': { stroke: theme.palette.primary.main, strokeWidth: 3 },
}));

/** How far the newest visit has got, as ticks on a rule. */
const Ticks = ({ ready }: { ready: readonly boolean[] }) => (
  <svg width="150" height="21" aria-hidden stroke="currentColor" style={{ display: 'block' }}>
    <line x1="0" x2="150" y1="20.5" y2="20.5" />
    {ready.map((done, k) => (
      <line
        key={k}
        x1={3 + 14 * k}
        x2={3 + 14 * k}
        y1={done ? 2 : 13}
        y2="20"
        className={done ? 'done' : undefined}
      />
    ))}
  </svg>
);

/** What a rider's row says: who, when last, when next, what hurts, how far. */
function Cells({ row: { rider, visit, nextDue }, today }: { row: Row; today: string }) {
  const due = nextDue === null ? null : dueText(nextDue, today);
  return (
    <>
      <div style={{ minWidth: 0 }}>
        <div className="head">
          <h2 title={rider.name}>{rider.name}</h2>
          {isSampleRider(rider.id) && <span className="sample">sample</span>}
        </div>
        <p className="quiet">{rider.note}</p>
      </div>
      <div>
        <p>
          <span className="label">last visit </span>
          {visit ? dayText(visit.startedIso) : 'none'}
        </p>
        {visit && <p className="small quiet">{visit.protocolName}</p>}
      </div>
      {due ? (
        <div>
          <p className={due.late ? 'late' : undefined}>
            <span className="label">next follow-up </span>
            {due.day}
          </p>
          <p className="small quiet">{due.words}</p>
        </div>
      ) : (
        <p className="quiet">no follow-up</p>
      )}
      <div>
        {visit?.complaints.slice(0, 2).map((c) => (
          <p key={c.name} className="small">
            {c.name} <strong>{c.severity}</strong>
          </p>
        ))}
        {visit && visit.complaints.length > 2 && (
          <p className="small quiet">and {visit.complaints.length - 2} more</p>
        )}
        {visit?.complaints.length === 0 && <p className="small quiet">nothing open</p>}
      </div>
      <div>
        <Ticks ready={visit?.ready ?? []} />
        <p className="small quiet">{visit?.next ? `next: ${visit.next.toLowerCase()}` : 'handed over'}</p>
      </div>
    </>
  );
}

/** A rider in the list. */
export const RiderRow = memo(function RiderRow({ row, today }: { row: Row; today: string }) {
  const cells = <Cells row={row} today={today} />;
  return (
    <li>
      {row.visit ? (
        <Link className="row" to={`/sessions/${row.visit.id}`}>
          {cells}
        </Link>
      ) : (
        <div className="row">{cells}</div>
      )}
      <Link
        className="record"
        to={`/riders/${row.rider.id}`}
        aria-label={`${row.rider.name}: visits and record`}
      >
        Record
      </Link>
    </li>
  );
});
