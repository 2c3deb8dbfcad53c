import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { Link } from 'react-router';
import { PageDialog } from '../../ui/PageDialog';
import { dropFilm } from '../../storage/films';
import { loadClip } from '../../storage/stores';
import { bytesText } from '../../ui/words/bytesText';
import { Sheet } from '../../ui/Desk';
import { download } from '../../ui/download';
import { dayText } from '../../ui/words/dates';

export interface FilmLine {
  sessionId: string;
  takeId: string;
  riderName: string;
  startedIso: string;
  clipName: string;
  bytes: number;
}

/** The films on this device, the largest first, each of which can be moved out: saved as a file, and taken off. */
export function RoomTaken({ films, onChange }: { films: readonly FilmLine[]; onChange: () => void }) {
  const [leaving, setLeaving] = useState<FilmLine | null>(null);
  const [saved, setSaved] = useState(false);
  const close = (): void => {
    setLeaving(null);
    setSaved(false);
  };
  const save = async (film: FilmLine): Promise<void> => {
    const blob = await loadClip(film.takeId);
    if (blob) download(film.clipName, blob);
    setSaved(true);
  };
  return (
    <Sheet
      title="Room on this device"
      note="films are what is big; figures, marks and tracks stay when a film goes"
    >
      {films.length === 0 && <Typography>No film is kept on this device.</Typography>}
      {films.map((f) => (
        <Box
          key={f.takeId}
          sx={{
            display: 'grid',
            gridTemplateColumns: { xs: '72px minmax(0, 1fr) auto', md: '100px minmax(0, 1fr) auto' },
            gap: 2,
            alignItems: 'center',
            borderBottom: 1,
            borderColor: 'divider',
            py: 0.75,
          }}
        >
          <Typography sx={{ fontWeight: 620 }}>{bytesText(f.bytes)}</Typography>
          <Box sx={{ minWidth: 0 }}>
            <Typography component={Link} to={`/sessions/${f.sessionId}/film`} color="textPrimary">
              {f.riderName}, {dayText(f.startedIso)}
            </Typography>
            <Typography variant="body2" color="textSecondary" noWrap title={f.clipName}>
              {f.clipName}
            </Typography>
          </Box>
          <Button onClick={() => setLeaving(f)} aria-label={`Move out ${f.clipName} of ${f.riderName}`}>
            Move out…
          </Button>
        </Box>
      ))}
      <PageDialog open={leaving !== null} onClose={close}>
        <DialogTitle>Move this film out?</DialogTitle>
        <DialogContent>
          First save “{leaving?.clipName}” as a file. Then it can go from this device; the readings stay. On
          the Film station the same file brings it back.
        </DialogContent>
        <DialogActions>
          <Button onClick={close}>Keep it here</Button>
          <Button variant={saved ? 'outlined' : 'contained'} onClick={() => void save(leaving!)}>
            Save the file
          </Button>
          <Button
            variant={saved ? 'contained' : 'outlined'}
            disabled={!saved}
            onClick={() => void dropFilm(leaving!.takeId).then(close).then(onChange)}
          >
            Remove from this device
          </Button>
        </DialogActions>
      </PageDialog>
    </Sheet>
  );
}
