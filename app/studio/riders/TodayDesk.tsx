import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useEffect, useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { backupNudge, type StudioDesk } from '../../../core/visit/desk.ts';
import { useStore } from 'zustand';
import { offlineStore } from '../../offline/register';
import { lastBackupIso } from '../../storage/lastBackup';
import { bytesText } from '../../ui/words/bytesText';
import { dueText } from '../../ui/words/dueText';
import { dayText } from '../../ui/words/dates';

const MOST = 4;

/** What a fitter wants to know on opening the door: who is due, what was left unfinished, and whether everything is safe. */
export function TodayDesk({ desk, today }: { desk: StudioDesk; today: string }) {
  return (
    <Box
      component="section"
      aria-label="Today"
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: '5fr 5fr 4fr' },
        columnGap: 4,
        rowGap: 2,
        mb: 3,
        '& a': { color: 'inherit' },
      }}
    >
      <Column title="Due" empty="Nobody is due within the week." rows={desk.due.length}>
        {desk.due.slice(0, MOST).map((d) => {
          const due = dueText(d.due, today);
          return (
            <Line key={d.followUpId} to={`/sessions/${d.visitId}/handover?view=dates`}>
              <strong>{d.rider.name}</strong>, {d.why || 'follow-up'}:{' '}
              <Box component="span" sx={{ fontWeight: due.late ? 640 : 400 }}>
                {due.words}
              </Box>
            </Line>
          );
        })}
      </Column>
      <Column title="Unfinished" empty="Every visit was handed over." rows={desk.unfinished.length}>
        {desk.unfinished.slice(0, MOST).map((u) => (
          <Line key={u.visit.id} to={`/sessions/${u.visit.id}/${u.path}`}>
            <strong>{u.rider.name}</strong>, {dayText(u.visit.startedIso)}: stopped at {u.station}
          </Line>
        ))}
      </Column>
      <Safe />
    </Box>
  );
}

function Column({
  title,
  empty,
  rows,
  children,
}: {
  title: string;
  empty: string;
  rows: number;
  children: ReactNode;
}) {
  return (
    <Box sx={{ minWidth: 0 }}>
      <Heading>{title}</Heading>
      {rows === 0 && <Typography color="textSecondary">{empty}</Typography>}
      {children}
      {rows > MOST && (
        <Typography variant="body2" color="textSecondary">
          and {rows - MOST} more
        </Typography>
      )}
    </Box>
  );
}

const Heading = ({ children }: { children: ReactNode }) => (
  <Typography variant="h2" sx={{ borderBottom: 1, borderColor: 'text.primary', mb: 0.75 }}>
    {children}
  </Typography>
);

const Line = ({ to, children }: { to: string; children: ReactNode }) => (
  <Typography sx={{ py: 0.25 }}>
    <Link to={to} style={{ textDecoration: 'none' }}>
      {children}
    </Link>
  </Typography>
);

/** Room taken, the last backup with a nudge when it is old, and whether all of it works without a network. */
function Safe() {
  const offline = useStore(offlineStore);
  const [known, setKnown] = useState<{ last: string | null; usedBytes: number | null } | null>(null);
  useEffect(() => {
    let ended = false;
    void (async () => {
      const [last, estimate] = await Promise.all([lastBackupIso(), navigator.storage?.estimate?.()]);
      if (!ended) setKnown({ last, usedBytes: estimate?.usage ?? null });
    })();
    return () => {
      ended = true;
    };
  }, []);
  const nudge = known && backupNudge(known.last, new Date().toISOString());
  return (
    <Box sx={{ minWidth: 0 }}>
      <Heading>Safe-keeping</Heading>
      {known !== null && known.usedBytes !== null && (
        <Typography>{bytesText(known.usedBytes)} on this device</Typography>
      )}
      {known?.last && <Typography>Last backup {dayText(known.last)}</Typography>}
      {nudge && (
        <Typography data-testid="backup-nudge">
          {nudge}{' '}
          <Button
            component={Link}
            to="/backup"
            size="small"
            variant="outlined"
            sx={{ minHeight: 32, display: 'table', my: 0.5 }}
          >
            Back up
          </Button>
        </Typography>
      )}
      <Typography color="textSecondary">
        {offline.ready ? 'Works without a network' : 'Needs the network until it has been kept here'}
      </Typography>
    </Box>
  );
}
