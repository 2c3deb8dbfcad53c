import Box from '@mui/material/Box';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import Typography from '@mui/material/Typography';
import { useCallback } from 'react';
import { useSearchParams } from 'react-router';
import { openComplaints } from '../../../core/intake/intake.ts';
import type { Moves } from '../../../core/plan/controls/controls.ts';
import type { Variant } from '../../../core/plan/terms/planning.ts';
import type { FitSession } from '../../../core/records/types.ts';
import type { Reading } from '../../../core/kinematics/read.ts';
import { Bench } from './bench/Bench';
import { Ladders } from './Ladders';
import { OnBikeTests } from './OnBikeTests';
import { PrescriptionView } from './PrescriptionView';
import { ReadingGate } from '../../ui/ReadingGate';
import { SuspectList } from '../../ui/SuspectList';
import { useVisitCase, usePrescription } from './usePlan';
import { useSet } from '../../session/useSet';
import { sideTake, useFrontal } from '../../jobs/useTakeResults';
import { useSession } from '../session';

const VIEWS = ['prescription', 'bench', 'complaints'] as const;
type PlanView = (typeof VIEWS)[number];

export default function Plan() {
  const { session } = useSession();
  const frontal = useFrontal(session);
  const side = sideTake(session);
  // A film from ahead alone gives the plan that it can give.
  if (!side && frontal) return <Planning session={session} reading={null} />;
  return (
    <ReadingGate session={session}>
      {(reading) => <Planning session={session} reading={reading} />}
    </ReadingGate>
  );
}

/** One station, three ways to look at it: what to do, what would happen, and what the complaints point at. */
function Planning({ session, reading }: { session: FitSession; reading: Reading | null }) {
  const { parts, rider } = useSession();
  const { set } = useSet();
  const [search, setSearch] = useSearchParams();
  const view: PlanView = VIEWS.find((v) => v === search.get('view')) ?? 'prescription';
  const visitCase = useVisitCase(session, reading, parts, rider?.habits ?? null);
  const plan = usePrescription(visitCase.case, visitCase.waits);
  const { planning } = session;
  const onTrying = useCallback((moves: Moves | null) => set('planning.trying', moves), [set]);
  const onVariants = useCallback((list: Variant[]) => set('planning.variants', list), [set]);
  return (
    <Box sx={{ flex: 1, minHeight: 0, overflowY: 'auto' }}>
      <Tabs
        value={view}
        onChange={(_, v: PlanView) => setSearch(v === 'prescription' ? {} : { view: v })}
        sx={{ px: 2, borderBottom: 1, borderColor: 'divider' }}
        aria-label="Ways to plan"
      >
        <Tab value="prescription" label="Prescription" />
        {reading && <Tab value="bench" label="What-if bench" />}
        <Tab value="complaints" label="Complaints" />
      </Tabs>
      {view === 'prescription' && (
        <PrescriptionView session={session} visitCase={visitCase} reading={reading} plan={plan} />
      )}
      {view === 'bench' && plan && reading && (
        <Bench
          visitCase={visitCase}
          reading={reading}
          prescribed={plan.total}
          stored={planning.trying}
          variants={planning.variants}
          onTrying={onTrying}
          onVariants={onVariants}
        />
      )}
      {view === 'complaints' && (
        <Box
          sx={{
            display: 'grid',
            gridTemplateColumns: { xs: '1fr', md: '1fr 1fr' },
            gap: 4,
            p: { xs: 2, md: 3 },
            maxWidth: 1180,
            mx: 'auto',
          }}
        >
          <Box>
            <Typography variant="h2" sx={{ mb: 1.5 }}>
              Suspects, from everything known
            </Typography>
            <SuspectList list={visitCase.case.suspects} />
          </Box>
          <Box>
            <Typography variant="h2" sx={{ mb: 1.5 }}>
              One step at a time
            </Typography>
            <Ladders
              regions={openComplaints(session.intake.complaints).map((q) => q.region)}
              answers={planning.ladders}
              onSay={(key, words) => set(`planning.ladders.${key}`, words)}
            />
            <Typography variant="h2" sx={{ mt: 3, mb: 1.5 }}>
              On the bike
            </Typography>
            <OnBikeTests found={planning.onBike} onChange={(found) => set('planning.onBike', found)} />
          </Box>
        </Box>
      )}
    </Box>
  );
}
