import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, useRef, useState } from 'react';
import { resolveBike } from '../../../core/bike/resolve.ts';
import { asReported, coordinatesOf, type Coordinate } from '../../../core/report/position.ts';
import { lastSetup } from '../../../core/visit/setups.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { lengthWithUnit } from '../../../core/units/length.ts';
import { transferPaper } from '../../pdf/transferPaper';
import { useSession } from '../session';
import { BikeDrawing } from '../../ui/drawings/BikeDrawing';
import { wholeDrawing } from '../../charts/ChartTools';
import { OnPaper } from './OnPaper';
import { fileName } from './PaperBar';
import { PaperDesk } from './PaperDesk';
import { usePaper } from './usePaper';
import { useSignature } from '../../session/useStudio';
import { dayText } from '../../ui/words/dates';

/** Everything that rebuilds the position, drawn to scale with its dimensions, on one page. */
export function TransferSheet({ session }: { session: FitSession }) {
  const { rider } = useSession();
  const studio = useSignature(session.riderId);
  const bike = lastSetup(session);
  const resolved = useMemo(() => resolveBike(bike), [bike]);
  const rows = useMemo(() => coordinatesOf(bike, resolved).map(asReported), [bike, resolved]);
  const drawing = useRef<HTMLDivElement | null>(null);
  const [svg, setSvg] = useState<string | null>(null);
  useEffect(() => {
    const whole = drawing.current && wholeDrawing(drawing.current, '#1d282e', '#ffffff', 'Roboto');
    setSvg(whole ? new XMLSerializer().serializeToString(whole.svg) : null);
  }, [bike, resolved, studio.lengthUnit]);
  const show = useMemo(
    () =>
      (c: Coordinate): string =>
        c.value === null
          ? 'open'
          : c.unit === 'mm'
            ? lengthWithUnit(Math.round(10 * c.value) / 10, studio.lengthUnit)
            : `${Math.round(10 * c.value) / 10}${c.unit}`.replace('-', '−'),
    [studio.lengthUnit],
  );
  const compose = useMemo(() => {
    if (!svg) return null;
    return () =>
      transferPaper({
        paper: session.handOver.paper,
        riderName: rider?.name ?? 'Rider',
        bikeName: bike.name,
        day: dayText(session.startedIso),
        studio,
        drawing: svg,
        coordinates: rows,
        show,
      });
  }, [svg, session.handOver.paper, rider, bike.name, session.startedIso, studio, rows, show]);
  const paper = usePaper(compose);
  return (
    <PaperDesk
      paper={session.handOver.paper}
      state={paper}
      name={`${fileName(rider?.name ?? 'rider', 'transfer', session.startedIso.slice(0, 10))}.pdf`}
      label="The transfer sheet"
    >
      <Typography color="textSecondary" sx={{ mb: 1 }}>
        {session.final ? 'As the bike was handed over.' : 'As the bike stands: it is not handed over yet.'}
      </Typography>
      <OnPaper box={drawing}>
        <BikeDrawing bike={bike} resolved={resolved} />
      </OnPaper>
      <Table size="small" aria-label="Coordinates" sx={{ mt: 2, '& td, & th': { px: 0.75 } }}>
        <TableHead>
          <TableRow>
            <TableCell>Coordinate</TableCell>
            <TableCell align="right">Value</TableCell>
            <TableCell align="right">±</TableCell>
            <TableCell>How</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {rows.map((c) => (
            <TableRow key={c.key} data-testid={`coordinate-${c.key}`}>
              <TableCell sx={{ lineHeight: 1.2 }}>{c.name}</TableCell>
              <TableCell
                align="right"
                sx={{ whiteSpace: 'nowrap', fontWeight: c.value === null ? 400 : 640 }}
              >
                {show(c)}
              </TableCell>
              <TableCell align="right">{c.tolerance ?? ''}</TableCell>
              <TableCell sx={{ color: 'text.secondary', lineHeight: 1.2 }}>
                {c.how}
                {c.from === 'computed' && ' Worked out.'}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </PaperDesk>
  );
}
