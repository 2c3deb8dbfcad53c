import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import { useEffect, useState } from 'react';
import { useLocation } from 'react-router';
import { PageDialog } from '../ui/PageDialog';
import { isTyping } from '../ui/typing';

type Keys = readonly (readonly [keys: string, what: string])[];

const EVERYWHERE: Keys = [
  ['Ctrl Z', 'undo'],
  ['Ctrl Y', 'redo'],
  ['?', 'these keys'],
];
const FILM: Keys = [
  [', .', 'one frame back, on'],
  ['< >', 'ten frames back, on'],
  ['Home End', 'first, last frame'],
  ['Space', 'play, pause'],
  ['[ ]', 'slower, faster'],
  ['+ − 0', 'closer, further, the whole picture'],
];
const POINTS: Keys = [
  ['Enter', 'put the point that is asked for; draw it to its sticker'],
  ['← → ↑ ↓', 'move the point; with Shift further'],
  ['Delete', 'remove the point'],
];
const OF_STATION: Readonly<Record<string, Keys>> = {
  film: [['M', 'measure'], ['Y', 'yes, the joint is there'], ...FILM],
  scale: [...POINTS, ...FILM],
  mark: [...POINTS, ...FILM],
  track: [
    ['n p', 'next, previous doubtful place'],
    ['Enter', 'correct the landmark here'],
    ['h', 'hidden here'],
    ['x', 'swap with the nearest'],
    ...FILM,
  ],
  read: FILM,
  plan: [['C', 'on the bench: compensate']],
  trial: [
    ['N', 'the next step is on the bike; at Live a presenter’s forward key too'],
    ['B S W', 'the rider says: better, the same, worse'],
    ['U', 'undo the last step'],
  ],
};

/** The keys of the open station, on “?”. */
export function KeysHelp() {
  const [open, setOpen] = useState(false);
  const { pathname } = useLocation();
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if (e.key === '?' && !isTyping(e)) setOpen(true);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
  if (!open) return null;
  const own = OF_STATION[pathname.split('/').at(-1) ?? ''] ?? [];
  return (
    <PageDialog open onClose={() => setOpen(false)}>
      <DialogTitle>Keys</DialogTitle>
      <DialogContent>
        <Table size="small" aria-label="Keys of this station">
          <TableBody>
            {[...own, ...EVERYWHERE].map(([keys, what]) => (
              <TableRow key={what}>
                <TableCell sx={{ whiteSpace: 'nowrap', fontWeight: 620 }}>{keys}</TableCell>
                <TableCell>{what}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </DialogContent>
      <DialogActions>
        <Button onClick={() => setOpen(false)}>Close</Button>
      </DialogActions>
    </PageDialog>
  );
}
