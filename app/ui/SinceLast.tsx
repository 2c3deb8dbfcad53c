import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { useMemo } from 'react';
import { Link } from 'react-router';
import { measureName } from '../../core/protocol/convention.ts';
import { complaintsThenNow } from '../../core/report/history.ts';
import { legOf, measuresOf } from '../../core/visit/visitCase.ts';
import type { FitSession } from '../../core/records/types.ts';
import { outcomes } from '../../core/visit/outcome.ts';
import { quoted } from './words/angleText';
import { Sheet } from './Desk';
import { useStudio } from '../session/useStudio';
import { sideTake, useReading } from '../jobs/useTakeResults';
import { dayText } from './words/dates';

/** A follow-up against the visit before: what hurt then and now, which figures really changed. Stickered anew, so the larger ±. */
export function SinceLast({ session, earlier }: { session: FitSession; earlier: FitSession }) {
  const { jointConvention } = useStudio();
  const state = useReading(session);
  const reading = state.status === 'read' && state.result.ok ? state.result : null;
  const complaints = complaintsThenNow(earlier.intake.complaints, session.intake.complaints);
  const rows = useMemo(
    () =>
      reading
        ? outcomes(earlier.handOver.findings, measuresOf(session, reading, legOf(sideTake(session))), {
            sameStickers: false,
            predicted: null,
          })
        : [],
    [session, earlier, reading],
  );
  const figure = (key: string, v: number, unit: string): string =>
    `${quoted(key, v, jointConvention).toFixed(0).replace('-', '−')}${unit === '°' ? '°' : ' mm'}`;
  return (
    <Sheet title="Since last time" note={dayText(earlier.startedIso)}>
      <Table size="small" aria-label="Complaints then and now" sx={{ '& td, & th': { px: 0.75 } }}>
        <TableHead>
          <TableRow>
            <TableCell>Complaint</TableCell>
            <TableCell align="right">Then</TableCell>
            <TableCell align="right">Now</TableCell>
            <TableCell />
          </TableRow>
        </TableHead>
        <TableBody>
          {complaints.length === 0 && (
            <TableRow>
              <TableCell colSpan={4}>Nothing hurt then, and nothing does now.</TableCell>
            </TableRow>
          )}
          {complaints.map((c) => (
            <TableRow key={c.name}>
              <TableCell>{c.name}</TableCell>
              <TableCell align="right">{c.then ?? '–'}</TableCell>
              <TableCell align="right" sx={{ fontWeight: 640 }}>
                {c.now ?? '–'}
              </TableCell>
              <TableCell>{c.words}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {rows.length > 0 ? (
        <Table size="small" aria-label="Figures then and now" sx={{ mt: 2, '& td, & th': { px: 0.75 } }}>
          <TableHead>
            <TableRow>
              <TableCell>Figure</TableCell>
              <TableCell align="right">Then</TableCell>
              <TableCell align="right">Now</TableCell>
              <TableCell>Change</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {rows.map((r) => (
              <TableRow key={r.key}>
                <TableCell sx={{ lineHeight: 1.2 }}>{measureName(r.key, jointConvention)}</TableCell>
                <TableCell align="right">{figure(r.key, r.before, r.unit)}</TableCell>
                <TableCell align="right" sx={{ fontWeight: 640 }}>
                  {figure(r.key, r.after, r.unit)}
                </TableCell>
                <TableCell>{r.real ? <strong>real</strong> : 'within noise'}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      ) : (
        <Typography color="textSecondary" sx={{ mt: 1 }}>
          {earlier.handOver.findings.length === 0
            ? 'No figures were handed over last time.'
            : 'Film and track, and the figures appear here next to the last visit’s.'}
        </Typography>
      )}
      <Box sx={{ mt: 1 }}>
        <Link to={`/sessions/${earlier.id}`} style={{ color: 'inherit' }}>
          Open that visit
        </Link>
      </Box>
    </Sheet>
  );
}
