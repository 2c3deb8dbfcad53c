import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { descending } from 'd3';
import dayjs from 'dayjs';
import { useState } from 'react';
import { PageDialog } from '../../ui/PageDialog';
import { byRider } from '../../../core/visit/summaries.ts';
import { TRASH_DAYS } from '../../../core/visit/visits.ts';
import { many } from '../../ui/words/many';
import { answering } from '../../session/answering';
import { RouteTrouble } from '../../ui/RouteTrouble';
import { TopBar } from '../../ui/TopBar';
import { eraseTake } from '../../session/erase';
import { clearNotice } from '../../session/notices';
import { useSend } from '../../session/useSend';
import { mustEdit } from '../../session/visits';
import { eraseRider, eraseSessionById } from '../../storage/trash';
import { erasePart, loadParts, saveParts } from '../../storage/parts';
import { binVisit, changeRider } from '../../storage/sessions';
import { studioIndex } from '../../storage/studioIndex';
import type { Route } from './+types/trash';
import { dayText } from '../../ui/words/dates';

export const meta: Route.MetaFunction = () => [{ title: 'Trash · Deep Angle' }];

interface Binned {
  kind: 'rider' | 'session' | 'take' | 'part';
  id: string;
  /** The visit of a film. */
  sessionId: string | null;
  name: string;
  deletedIso: string;
  /** What goes and comes with it. */
  what: string;
}

export async function clientLoader(): Promise<{ trashed: Binned[] }> {
  const { index, unreadable } = await studioIndex();
  const studio = byRider(index);
  const trashed = studio.flatMap(({ rider, visits }): Binned[] => {
    // A visit of a rider in the trash goes and comes with the rider.
    if (rider.deletedIso) {
      const unread = unreadable.filter((u) => u.riderId === rider.id).length;
      const whole = `rider with ${many(visits.length, 'visit')}${unread ? ` and ${many(unread, 'record')} that can’t be read` : ''}`;
      const { id, name, deletedIso } = rider;
      return [{ kind: 'rider', id, name, deletedIso, sessionId: null, what: whole }];
    }
    return visits.flatMap((v): Binned[] => {
      const name = `${rider.name}, visit of ${dayText(v.startedIso)}`;
      if (v.deletedIso)
        return [
          { kind: 'session', id: v.id, name, deletedIso: v.deletedIso, sessionId: null, what: 'one visit' },
        ];
      return v.removed.map((t) => ({
        kind: 'take',
        id: t.id,
        name: `${t.clipName}, ${name}`,
        deletedIso: t.removedIso,
        sessionId: v.id,
        what: 'one film with its marks and tracks',
      }));
    });
  });
  const parts = await loadParts();
  for (const { part, removedIso } of parts.ok ? parts.value.removed : [])
    trashed.push({
      kind: 'part',
      id: part.id,
      name: part.name,
      deletedIso: removedIso,
      sessionId: null,
      what: 'one part',
    });
  return { trashed: trashed.sort((a, b) => descending(a.deletedIso, b.deletedIso)) };
}

type TrashRequest = Pick<Binned, 'kind' | 'id' | 'sessionId'> & { what: 'back' | 'erase' };

export const clientAction = answering(async ({ request }: Route.ClientActionArgs) => {
  const { what, kind, id, sessionId } = (await request.json()) as TrashRequest;
  // The notice of how it came here offers an Undo that has nothing left to bring back.
  clearNotice();
  if (kind === 'take') {
    if (what === 'erase') await eraseTake(sessionId!, id);
    else await mustEdit(sessionId!, { kind: 'take-returned', takeId: id });
  } else if (kind === 'part') {
    if (what === 'erase') await erasePart(id);
    else {
      const parts = await loadParts();
      const back = parts.ok ? parts.value.removed.find((r) => r.part.id === id) : undefined;
      if (back) await saveParts([back.part], []);
    }
  } else if (what === 'erase') {
    await (kind === 'rider' ? eraseRider(id) : eraseSessionById(id));
  } else if (kind === 'rider') {
    await changeRider(id, (rider) => ({ ...rider, deletedIso: null }));
  } else {
    await binVisit(id, null);
  }
  return null;
});

export default function Trash({ loaderData }: Route.ComponentProps) {
  const { trashed } = loaderData;
  const { send } = useSend<TrashRequest>();
  const [erasing, setErasing] = useState<Binned | null>(null);
  const ask = (what: TrashRequest['what'], { kind, id, sessionId }: Binned): void =>
    send({ what, kind, id, sessionId });
  return (
    <Box sx={{ minHeight: '100vh' }}>
      <TopBar>
        <Typography color="textSecondary">Trash</Typography>
      </TopBar>
      <Box component="main" sx={{ maxWidth: 900, mx: 'auto', p: { xs: 2, md: 4 } }}>
        <Typography variant="h1" gutterBottom>
          Trash
        </Typography>
        <Typography color="textSecondary" sx={{ mb: 2 }}>
          What is deleted stays here for {TRASH_DAYS} days. Then it is deleted for good, film included.
        </Typography>
        {trashed.length === 0 && <Typography>The trash is empty.</Typography>}
        {trashed.map((b) => (
          <Box
            key={b.id}
            sx={{
              display: 'flex',
              gap: 2,
              py: 1,
              borderBottom: 1,
              borderColor: 'divider',
              alignItems: 'center',
              flexWrap: 'wrap',
            }}
          >
            <Box sx={{ flex: 1, minWidth: 220 }}>
              <Typography sx={{ fontWeight: 560 }}>{b.name}</Typography>
              <Typography variant="body2" color="textSecondary">
                {b.what}; deleted for good on{' '}
                {dayText(dayjs(b.deletedIso).add(TRASH_DAYS, 'day').toISOString())}
              </Typography>
            </Box>
            <Button variant="outlined" onClick={() => ask('back', b)}>
              Restore
            </Button>
            <Button onClick={() => setErasing(b)}>Erase now…</Button>
          </Box>
        ))}
      </Box>
      <PageDialog open={erasing !== null} onClose={() => setErasing(null)}>
        <DialogTitle>Erase {erasing?.name} whole?</DialogTitle>
        <DialogContent>
          {erasing?.what}: {erasing?.kind === 'part' ? 'it is' : 'records, marks, tracks and film are'}{' '}
          removed from this device now. This can’t be undone.
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setErasing(null)}>Keep</Button>
          <Button
            variant="contained"
            color="error"
            onClick={() => {
              ask('erase', erasing!);
              setErasing(null);
            }}
          >
            Erase
          </Button>
        </DialogActions>
      </PageDialog>
    </Box>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return <RouteTrouble error={error} bare />;
}
