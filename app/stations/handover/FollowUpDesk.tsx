import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import dayjs from 'dayjs';
import { nanoid } from 'nanoid';
import { writeCalendar } from '../../../core/formats/calendar.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { useSession } from '../session';
import { Sheet } from '../../ui/Desk';
import { download } from '../../ui/download';
import { FollowUps } from '../../ui/FollowUps';
import { fileName } from './PaperBar';
import { SinceLast } from '../../ui/SinceLast';
import { useEarlierVisit } from '../../session/useEarlierVisit';
import { useSet } from '../../session/useSet';
import { useSignature } from '../../session/useStudio';

/** When to meet again, as a calendar takes it; and, at a follow-up, how things stand against the visit before. */
export function FollowUpDesk({ session }: { session: FitSession }) {
  const { set } = useSet();
  const { rider } = useSession();
  const studio = useSignature(session.riderId);
  const earlier = useEarlierVisit(session);
  const open = session.followUps.filter((f) => f.doneIso === null);
  const { event, eventDate } = session.intake;
  const afterEvent = eventDate ? dayjs(eventDate).add(1, 'week').format('YYYY-MM-DD') : null;
  return (
    <Box
      sx={{
        p: { xs: 2, md: 3 },
        maxWidth: 1180,
        mx: 'auto',
        display: 'grid',
        gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 1fr) minmax(0, 1fr)' },
        gap: 4,
      }}
    >
      <Sheet title="Follow-ups" note="a few rides in, after six to eight weeks, yearly, after an event">
        <FollowUps list={session.followUps} onChange={(list) => set('followUps', list)} />
        <Box sx={{ display: 'flex', gap: 1, mt: 2, flexWrap: 'wrap' }}>
          {afterEvent && !session.followUps.some((f) => f.due === afterEvent) && (
            <Button
              variant="outlined"
              onClick={() =>
                set('followUps', [
                  ...session.followUps,
                  {
                    id: nanoid(),
                    due: afterEvent,
                    why: `After the event${event ? `: ${event}` : ''}`.slice(0, 300),
                    doneIso: null,
                  },
                ])
              }
            >
              A week after the event
            </Button>
          )}
          <Button
            variant="contained"
            disabled={open.length === 0}
            onClick={() =>
              download(
                `${fileName(rider?.name ?? 'rider', 'follow-ups')}.ics`,
                writeCalendar(session.followUps, {
                  riderName: rider?.name ?? 'Rider',
                  studioName: studio.name,
                  fitter: studio.fitter,
                  contact: studio.contact,
                }),
                'text/calendar',
              )
            }
          >
            Calendar file (ICS)
          </Button>
        </Box>
        <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
          Also: after a crash, an injury, long time off, new shoes, saddle, pedals or cranks.
        </Typography>
      </Sheet>
      {earlier && <SinceLast session={session} earlier={earlier} />}
    </Box>
  );
}
