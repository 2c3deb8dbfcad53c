import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ListItemButton from '@mui/material/ListItemButton';
import ListItemText from '@mui/material/ListItemText';
import Typography from '@mui/material/Typography';
import type { SessionEdit } from '../../../core/visit/edits.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { takeText } from '../../ui/words/takeWords';
import { TRASH_DAYS } from '../../../core/visit/visits.ts';
import { notify } from '../../session/notices';

/** The visit's takes; the stations work on the one that is open. */
export function TakeList({
  session,
  edit,
}: {
  session: FitSession;
  edit: (e: SessionEdit) => Promise<unknown>;
}) {
  const { takes, takeId } = session;
  return (
    <Box component="section" aria-label="Takes">
      <Typography variant="h2" gutterBottom>
        {takes.length === 1 ? 'The take' : `${takes.length} takes`}
      </Typography>
      {takes.map((t) => (
        <Box key={t.id} sx={{ display: 'flex', border: 1, borderColor: 'divider', mt: '-1px' }}>
          <ListItemButton
            dense
            selected={t.id === takeId}
            aria-current={t.id === takeId ? 'true' : undefined}
            onClick={() => t.id !== takeId && void edit({ kind: 'take-opened', takeId: t.id })}
            sx={{ minHeight: 44, minWidth: 0 }}
          >
            <ListItemText
              primary={takeText(t)}
              secondary={`${t.clipName}, ${t.video.durationS.toFixed(1)} s${t.tracking.state === 'none' ? '' : ', tracked'}`}
              slotProps={{ primary: { noWrap: true }, secondary: { noWrap: true } }}
            />
          </ListItemButton>
          <Button
            size="small"
            aria-label={`Remove the take ${t.clipName}`}
            onClick={() => {
              void edit({ kind: 'take-removed', takeId: t.id, removedIso: new Date().toISOString() });
              notify(
                `“${t.clipName}” removed, with its marks${t.tracking.state === 'none' ? '' : ' and tracks'}. It lies in the trash for ${TRASH_DAYS} days.`,
                () => void edit({ kind: 'take-returned', takeId: t.id }),
              );
            }}
          >
            Remove
          </Button>
        </Box>
      ))}
    </Box>
  );
}
