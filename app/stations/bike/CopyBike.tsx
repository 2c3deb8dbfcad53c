import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import List from '@mui/material/List';
import ListItemButton from '@mui/material/ListItemButton';
import ListItemText from '@mui/material/ListItemText';
import ListSubheader from '@mui/material/ListSubheader';
import { useState } from 'react';
import { PageDialog } from '../../ui/PageDialog';
import type { BikeSetup } from '../../../core/bike/setup.ts';
import { BIKE_TEMPLATES } from '../../../core/bike/templates.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { lastSetup } from '../../../core/visit/setups.ts';
import { sessionsOf } from '../../storage/trash';
import { dayText } from '../../ui/words/dates';

interface Source {
  words: string;
  bike: BikeSetup;
}

/** A bike to begin with: as one of the rider's earlier visits left it, or a frame as such bikes usually are. */
export function CopyBike({ session, onCopy }: { session: FitSession; onCopy: (bike: BikeSetup) => void }) {
  const [earlier, setEarlier] = useState<Source[] | null>(null);
  const open = async (): Promise<void> => {
    const visits = (await sessionsOf(session.riderId)).filter(
      (s) => s.id !== session.id && s.deletedIso === null,
    );
    setEarlier(
      visits.map((s) => {
        const bike = lastSetup(s);
        return { words: `${bike.name || 'a bike without a name'}, ${dayText(s.startedIso)}`, bike };
      }),
    );
  };
  const take = (bike: BikeSetup): void => {
    setEarlier(null);
    onCopy(bike);
  };
  const entries = (sources: readonly Source[]) =>
    sources.map(({ words, bike }) => (
      <ListItemButton key={words} onClick={() => take(bike)} sx={{ minHeight: 44 }}>
        <ListItemText primary={words} />
      </ListItemButton>
    ));
  return (
    <>
      <Button onClick={() => void open()}>Copy from…</Button>
      {earlier && (
        <PageDialog open onClose={() => setEarlier(null)} fullWidth maxWidth="xs">
          <DialogTitle>Copy the bike from</DialogTitle>
          <DialogContent sx={{ px: 1 }}>
            <List dense>
              {earlier.length > 0 && <ListSubheader>This rider’s other visits</ListSubheader>}
              {entries(earlier)}
              <ListSubheader>A usual frame, everything else open</ListSubheader>
              {entries(BIKE_TEMPLATES.map((bike) => ({ words: bike.name, bike })))}
            </List>
          </DialogContent>
          <DialogActions sx={{ justifyContent: 'space-between' }}>
            <span>It replaces what is typed here. Undo brings that back.</span>
            <Button onClick={() => setEarlier(null)}>Cancel</Button>
          </DialogActions>
        </PageDialog>
      )}
    </>
  );
}
