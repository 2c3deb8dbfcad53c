import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { useMemo } from 'react';
import { moneyText } from '../../../core/units/money.ts';
import { fieldName } from '../../../core/bike/fields.ts';
import { boughtMoves, partsBetween, RETORQUE, totalOf } from '../../../core/report/orders.ts';
import { workOrderOf } from '../../../core/report/report.ts';
import { applyMoves } from '../../../core/plan/controls/controls.ts';
import { differences, lastSetup, setupNow } from '../../../core/visit/setups.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { progressOf } from '../../../core/visit/progress.ts';
import { roundNow } from '../../../core/visit/setups.ts';
import { roundSetup } from '../../../core/visit/rounds.ts';
import { workPaper } from '../../pdf/workPaper';
import { useSession } from '../session';
import { Sheet } from '../../ui/Desk';
import { ValueMove, valueText } from '../../ui/Moves';
import { fileName } from './PaperBar';
import { PaperDesk } from './PaperDesk';
import { usePaper } from './usePaper';
import { useSet } from '../../session/useSet';
import { useSignature } from '../../session/useStudio';
import { dayText } from '../../ui/words/dates';

/** Parts with their prices, and the mechanic's jobs with a tick for each torque. */
export function WorkOrder({ session }: { session: FitSession }) {
  const { set } = useSet();
  const { rider, parts } = useSession();
  const studio = useSignature(session.riderId);
  const leaves = lastSetup(session);
  const { ticked, paper } = session.handOver;
  const lists = useMemo(() => {
    const used = partsBetween(session.asFound, leaves, parts);
    // What the kept plan still asks for, beyond what is on the bike.
    const progress = progressOf(
      session.plan?.lines ?? [],
      roundSetup(session, roundNow(session)),
      setupNow(session),
    );
    const wanted = progress.reduce((bike, p) => applyMoves(bike, boughtMoves(p.left)), leaves);
    const open = partsBetween(leaves, wanted, parts).map((l) => ({ ...l, key: `open-${l.key}` }));
    return { used, open, jobs: workOrderOf(session.asFound, leaves) };
  }, [session, leaves, parts]);
  const moved = useMemo(
    () => differences(session.asFound, leaves).filter((v) => v.at !== 'name'),
    [session.asFound, leaves],
  );
  const compose = useMemo(
    () => () =>
      workPaper({
        paper,
        riderName: rider?.name ?? 'Rider',
        bikeName: leaves.name,
        day: dayText(session.startedIso),
        studio,
        parts: [...lists.used, ...lists.open],
        jobs: lists.jobs,
        ticked,
        changes: moved.map(
          (v) =>
            `${fieldName(v.at)}: ${valueText(v.at, v.from, studio.lengthUnit)} to ${valueText(v.at, v.to, studio.lengthUnit)}`,
        ),
      }),
    [paper, rider, leaves.name, session.startedIso, studio, lists, ticked, moved],
  );
  const state = usePaper(compose);
  const all = [...lists.used, ...lists.open];
  const total = totalOf(all);
  return (
    <PaperDesk
      paper={paper}
      state={state}
      name={`${fileName(rider?.name ?? 'rider', 'work-order', session.startedIso.slice(0, 10))}.pdf`}
      label="The work order"
    >
      <Box sx={{ '& > section + section': { mt: 3 } }}>
        <Sheet title="Parts" note="on the bike, and what the plan still asks for">
          {all.length === 0 ? (
            <Typography>None: everything is done with what is on the bike.</Typography>
          ) : (
            <Table size="small" aria-label="Parts list" sx={{ '& td, & th': { px: 0.75 } }}>
              <TableHead>
                <TableRow>
                  <TableCell>Part</TableCell>
                  <TableCell align="right">Count</TableCell>
                  <TableCell>From</TableCell>
                  <TableCell align="right">Price</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {all.map((l) => (
                  <TableRow key={l.key}>
                    <TableCell>{l.what}</TableCell>
                    <TableCell align="right">{l.count}</TableCell>
                    <TableCell>{l.from === 'bin' ? 'the parts bin' : 'to order'}</TableCell>
                    <TableCell align="right">
                      {l.price === null ? 'ask' : moneyText(l.price, studio.currency)}
                    </TableCell>
                  </TableRow>
                ))}
                <TableRow>
                  <TableCell colSpan={3} sx={{ fontWeight: 640 }}>
                    Total{total.unpriced > 0 && `, ${total.unpriced} without a price`}
                  </TableCell>
                  <TableCell align="right" sx={{ fontWeight: 640 }} data-testid="parts-total">
                    {moneyText(total.price, studio.currency)}
                  </TableCell>
                </TableRow>
              </TableBody>
            </Table>
          )}
        </Sheet>
        <Sheet
          title="Work order"
          note="for the mechanic; ticked when done and tightened to the maker’s torque"
        >
          {moved.map((v) => (
            <ValueMove key={v.at} v={v} />
          ))}
          <Box sx={{ mt: 1.5 }}>
            {lists.jobs.length === 0 && <Typography color="textSecondary">Nothing was moved.</Typography>}
            {lists.jobs.map((j) => (
              <FormControlLabel
                key={j.key}
                sx={{ display: 'flex', alignItems: 'flex-start' }}
                control={
                  <Checkbox
                    checked={ticked.includes(j.key)}
                    onChange={(e) =>
                      set(
                        'handOver.ticked',
                        e.target.checked ? [...ticked, j.key] : ticked.filter((k) => k !== j.key),
                      )
                    }
                  />
                }
                label={
                  <Box sx={{ pt: 1 }}>
                    {j.what}
                    <Typography variant="body2" color="textSecondary">
                      torque per maker: {j.bolts.join(', ')}
                    </Typography>
                  </Box>
                }
              />
            ))}
          </Box>
          <Typography sx={{ mt: 1, fontWeight: 600 }}>{RETORQUE}</Typography>
        </Sheet>
      </Box>
    </PaperDesk>
  );
}
