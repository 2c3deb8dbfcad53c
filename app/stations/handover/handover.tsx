import Box from '@mui/material/Box';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import { useSearchParams } from 'react-router';
import { FollowUpDesk } from './FollowUpDesk';
import { HandOverBar } from './HandOverBar';
import { HandOverFiles } from './HandOverFiles';
import { OtherBike } from './OtherBike';
import { ReportDesk } from './ReportDesk';
import { TransferSheet } from './TransferSheet';
import { useFilmedEnds } from './useFilmedEnds';
import { WorkOrder } from './WorkOrder';
import { useSession } from '../session';

const VIEWS = ['report', 'transfer', 'other', 'work', 'dates', 'files'] as const;
type HandOverView = (typeof VIEWS)[number];

const TITLES: Record<HandOverView, string> = {
  report: 'Rider’s report',
  transfer: 'Transfer sheet',
  other: 'Another bike',
  work: 'Parts and work',
  dates: 'Follow-ups',
  files: 'Files',
};

/** What leaves the room: with the rider, with the bike, with the next fitter; and when to meet again. */
export default function HandOver() {
  const { session } = useSession();
  const ends = useFilmedEnds(session);
  const [search, setSearch] = useSearchParams();
  const view: HandOverView = VIEWS.find((v) => v === search.get('view')) ?? 'report';
  return (
    <Box sx={{ flex: 1, minHeight: 0, overflowY: 'auto' }}>
      <HandOverBar session={session} ends={ends} />
      <Tabs
        value={view}
        onChange={(_, v: HandOverView) => setSearch(v === 'report' ? {} : { view: v })}
        variant="scrollable"
        sx={{ px: 2, borderBottom: 1, borderColor: 'divider' }}
        aria-label="What is handed over"
      >
        {VIEWS.map((v) => (
          <Tab key={v} value={v} label={TITLES[v]} />
        ))}
      </Tabs>
      {view === 'report' && <ReportDesk session={session} ends={ends} />}
      {view === 'transfer' && <TransferSheet session={session} />}
      {view === 'other' && <OtherBike session={session} />}
      {view === 'work' && <WorkOrder session={session} />}
      {view === 'dates' && <FollowUpDesk session={session} />}
      {view === 'files' && <HandOverFiles session={session} />}
    </Box>
  );
}
