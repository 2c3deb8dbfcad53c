import Box from '@mui/material/Box';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import { useEffect } from 'react';
import { useSearchParams } from 'react-router';
import { BeforeAfter } from './BeforeAfter';
import { ChangeLog } from './ChangeLog';
import { DevicePanel } from './DevicePanel';
import { LivePanel } from './LivePanel';
import { StepLadder } from './StepLadder';
import { useDevices } from './useDevices';
import { noteLoad } from '../../jobs/live';
import { useReading } from '../../jobs/useTakeResults';
import { useSession } from '../session';

const VIEWS = ['changes', 'live', 'ladder', 'compare', 'devices'] as const;
type TrialView = (typeof VIEWS)[number];

/** One station, five ways to look at it: what is being tried, the same while the camera runs, how it went step by step, whether it worked, and the devices. */
export default function Trial() {
  const { session } = useSession();
  const [search, setSearch] = useSearchParams();
  const view: TrialView = VIEWS.find((v) => v === search.get('view')) ?? 'changes';
  const state = useReading(session);
  const reading = state.status === 'read' && state.result.ok ? state.result : null;
  const devices = useDevices(session, reading);
  const { live } = devices;
  useEffect(() => {
    if (live) noteLoad(live.powerW);
  }, [live]);
  return (
    <Box sx={{ flex: 1, minHeight: 0, overflowY: 'auto' }}>
      <Tabs
        value={view}
        onChange={(_, v: TrialView) => setSearch(v === 'changes' ? {} : { view: v })}
        variant="scrollable"
        sx={{ px: 2, borderBottom: 1, borderColor: 'divider' }}
        aria-label="Ways to look at the trial"
      >
        <Tab value="changes" label="Changes" />
        <Tab value="live" label="Live" />
        <Tab value="ladder" label="Step ladder" />
        <Tab value="compare" label="Before and after" />
        <Tab value="devices" label="Trainer and mat" />
      </Tabs>
      {view === 'changes' && <ChangeLog session={session} devices={devices} />}
      {view === 'live' && <LivePanel session={session} reading={reading} devices={devices} />}
      {view === 'ladder' && <StepLadder session={session} reading={reading} />}
      {view === 'compare' && <BeforeAfter session={session} />}
      {view === 'devices' && <DevicePanel session={session} devices={devices} />}
    </Box>
  );
}
