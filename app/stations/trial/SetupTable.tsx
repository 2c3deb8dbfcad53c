import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { PageDialog } from '../../ui/PageDialog';
import { fieldName } from '../../../core/bike/fields.ts';
import { differences, setupNow } from '../../../core/visit/setups.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { standings, type LineProgress } from '../../../core/visit/progress.ts';
import { ValueMove, valueText } from '../../ui/Moves';
import { useStudio } from '../../session/useStudio';

/** As found → as it stands → as planned, always in sight; and the way back to as found. */
export function SetupTable({
  session,
  progress,
  onAllBack,
}: {
  session: FitSession;
  progress: readonly LineProgress[];
  onAllBack: () => void;
}) {
  const { lengthUnit } = useStudio();
  const [asking, setAsking] = useState(false);
  const now = setupNow(session);
  const rows = useMemo(() => standings(session.asFound, now, progress), [session.asFound, now, progress]);
  const back = differences(now, session.asFound);
  const text = (at: string, v: (typeof rows)[number]['now']): string => valueText(at, v, lengthUnit);
  return (
    <Box
      component="section"
      aria-label="The bike"
      sx={{ minWidth: 0, position: { md: 'sticky' }, top: 16, alignSelf: 'start' }}
    >
      <Table size="small" aria-label="As found, as it stands, as planned" sx={{ '& td, & th': { px: 0.75 } }}>
        <TableHead>
          <TableRow>
            <TableCell>The bike</TableCell>
            <TableCell align="right">As found</TableCell>
            <TableCell align="right">Stands</TableCell>
            <TableCell align="right">Planned</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.length === 0 && (
            <TableRow>
              <TableCell colSpan={4}>
                <Typography color="textSecondary">Nothing moved, nothing planned.</Typography>
              </TableCell>
            </TableRow>
          )}
          {rows.map((r) => (
            <TableRow key={r.at} data-testid={`stands-${r.at}`}>
              <TableCell sx={{ lineHeight: 1.2 }}>{fieldName(r.at)}</TableCell>
              <TableCell align="right" sx={{ whiteSpace: 'nowrap', color: 'text.secondary' }}>
                {text(r.at, r.asFound)}
              </TableCell>
              <TableCell
                align="right"
                sx={{ whiteSpace: 'nowrap', fontSize: '1.1rem', fontWeight: r.now === r.asFound ? 400 : 660 }}
              >
                {text(r.at, r.now)}
              </TableCell>
              <TableCell align="right" sx={{ whiteSpace: 'nowrap' }}>
                {r.planned === r.now ? (
                  <Box component="span" sx={{ color: 'text.secondary' }}>
                    there
                  </Box>
                ) : (
                  text(r.at, r.planned)
                )}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <Button sx={{ mt: 1 }} disabled={back.length === 0} onClick={() => setAsking(true)}>
        Restore as found…
      </Button>
      <PageDialog open={asking} onClose={() => setAsking(false)}>
        <DialogTitle>Restore as found</DialogTitle>
        <DialogContent>
          <Typography sx={{ mb: 1 }}>
            To be done on the bike, in this order; the log keeps what was tried.
          </Typography>
          <Box component="ol" sx={{ m: 0, pl: 2.5 }} aria-label="To restore">
            {back.map((v) => (
              <li key={v.at}>
                <ValueMove v={v} />
              </li>
            ))}
          </Box>
        </DialogContent>
        <DialogActions>
          <Button onClick={() => setAsking(false)}>Not now</Button>
          <Button
            variant="contained"
            onClick={() => {
              onAllBack();
              setAsking(false);
            }}
          >
            The bike is as found again
          </Button>
        </DialogActions>
      </PageDialog>
    </Box>
  );
}
