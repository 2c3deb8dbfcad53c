import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useState } from 'react';
import { ANGLE_NAMES, type AnyAngleKey } from '../../../core/kinematics/angles.ts';
import type { Reading } from '../../../core/kinematics/read.ts';
import { conventionWord, degrees, quoted, type Convention } from '../../ui/words/angleText';

const COLUMNS = ['0', '90', '180', '270'] as const;

const HEADS = ['Top', 'Forward', 'Bottom', 'Back', 'Least', 'Most', '±'];

/** The angles that a reading has, the optional ones after the others. */
export const readable = (reading: Reading): AnyAngleKey[] => Object.keys(reading.angles) as AnyAngleKey[];

/** Each angle's row as quoted: at the crank's positions, least, most, ±. */
const rowOf = (reading: Reading, key: AnyAngleKey, convention: Convention): number[] => {
  const a = reading.angles[key]!;
  const q = (v: number): number => quoted(key, v, convention);
  const ends = [q(a.min), q(a.max)].sort((x, y) => x - y);
  return [...COLUMNS.map((c) => q(a.at[c])), ...ends, a.uncertainty.absoluteDeg];
};

/** The table as a spreadsheet takes it: tabs between columns, plain numbers. */
const asText = (reading: Reading, convention: Convention): string =>
  [
    ['Degrees', ...HEADS].join('\t'),
    ...readable(reading).map((key) => {
      const word = conventionWord(key, convention);
      const name = word ? `${ANGLE_NAMES[key]} (${word})` : ANGLE_NAMES[key];
      return [name, ...rowOf(reading, key, convention).map((v) => v.toFixed(2))].join('\t');
    }),
  ].join('\n');

/** Every angle at the crank's positions, with its least, its most and its uncertainty. */
export function ValueTable({ reading, convention }: { reading: Reading; convention: Convention }) {
  const [copied, setCopied] = useState(false);
  return (
    <Box sx={{ overflowX: 'auto', mt: 2 }}>
      <Button
        size="small"
        onClick={() =>
          void navigator.clipboard.writeText(asText(reading, convention)).then(() => setCopied(true))
        }
      >
        {copied ? 'Copied: paste it into a spreadsheet' : 'Copy the table'}
      </Button>
      <Table
        size="small"
        aria-label="Angles at the crank’s positions, degrees"
        sx={{ '& td, & th': { px: 0.75 } }}
      >
        <TableHead>
          <TableRow>
            <TableCell>Degrees</TableCell>
            {HEADS.map((h) => (
              <TableCell key={h} align="right">
                {h}
              </TableCell>
            ))}
          </TableRow>
        </TableHead>
        <TableBody>
          {readable(reading).map((key) => (
            <TableRow key={key}>
              <TableCell>
                {ANGLE_NAMES[key]}{' '}
                {conventionWord(key, convention) && <small>{conventionWord(key, convention)}</small>}
              </TableCell>
              {rowOf(reading, key, convention).map((v, i) => (
                <TableCell key={HEADS[i]} align="right">
                  {degrees(v)}
                </TableCell>
              ))}
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Box>
  );
}
