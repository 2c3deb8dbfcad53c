import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useState } from 'react';
import { mean, standardDeviation } from '../../../core/math/statistics.ts';
import { ANGLE_NAMES, type AnyAngleKey } from '../../../core/kinematics/angles.ts';
import type { Reading } from '../../../core/kinematics/read.ts';
import { degrees, quoted, type Convention } from '../../ui/words/angleText';

const COLUMNS = [
  ['at0', 'Top'],
  ['at90', 'Forward'],
  ['at180', 'Bottom'],
  ['at270', 'Back'],
  ['min', 'Least'],
  ['max', 'Most'],
] as const;

/** Every stroke's own figures of one angle, their mean and how well they repeat. */
export function PerStroke({
  reading,
  angle,
  convention,
}: {
  reading: Reading;
  angle: AnyAngleKey;
  convention: Convention;
}) {
  const [open, setOpen] = useState(false);
  const rows = reading.angles[angle]!.perStroke;
  const inside = convention === 'inside' && quoted(angle, 0, convention) !== 0;
  // Of an inside angle the least bend is the most.
  const columns = COLUMNS.map(([key, head]) => {
    const from = inside && key === 'min' ? 'max' : inside && key === 'max' ? 'min' : key;
    return { head, values: rows.map((r) => quoted(angle, r[from], convention)) };
  });
  return (
    <Box sx={{ overflowX: 'auto' }}>
      <Button size="small" onClick={() => setOpen(!open)} aria-expanded={open}>
        {open ? 'Hide the strokes' : `${ANGLE_NAMES[angle]}, stroke by stroke`}
      </Button>
      {open && (
        <Table
          size="small"
          aria-label={`${ANGLE_NAMES[angle]}, stroke by stroke`}
          sx={{ '& td, & th': { px: 0.75 } }}
        >
          <TableHead>
            <TableRow>
              <TableCell>Stroke</TableCell>
              {columns.map((c) => (
                <TableCell key={c.head} align="right">
                  {c.head}
                </TableCell>
              ))}
            </TableRow>
          </TableHead>
          <TableBody>
            {rows.map((_, i) => (
              <TableRow key={i}>
                <TableCell>{i + 1}</TableCell>
                {columns.map((c) => (
                  <TableCell key={c.head} align="right">
                    {degrees(c.values[i])}
                  </TableCell>
                ))}
              </TableRow>
            ))}
            {(
              [
                ['mean', mean],
                ['SD between strokes', standardDeviation],
              ] as const
            ).map(([name, of]) => (
              <TableRow key={name} sx={{ '& td': { fontWeight: 640 } }}>
                <TableCell>{name}</TableCell>
                {columns.map((c) => (
                  <TableCell key={c.head} align="right">
                    {degrees(of(c.values), 2)}
                  </TableCell>
                ))}
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
    </Box>
  );
}
