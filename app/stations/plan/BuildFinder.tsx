import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import Joi from 'joi';
import { memo, useMemo, useState } from 'react';
import { CONTROLS, type ControlKey } from '../../../core/plan/controls/controlTable.ts';
import type { Moves } from '../../../core/plan/controls/controls.ts';
import { buildsFor } from '../../../core/plan/cockpitBuilds.ts';
import { LengthField } from '../../ui/fields/NumberField';
import type { VisitCase } from '../../../core/visit/visitCase.ts';
import { buildPrice } from '../../ui/words/buildPrice';
import { useInUnits } from '../../ui/useInUnits';
import { useStudio } from '../../session/useStudio';

const bounds = Joi.number().min(-120).max(120).messages({
  'number.min': 'Within 120 mm of where they are.',
  'number.max': 'Within 120 mm of where they are.',
});

/** A wanted place of the hands, and the stems, spacers, flips and bars that come nearest to it. */
export const BuildFinder = memo(function BuildFinder({
  visitCase,
  moves,
  onTake,
}: {
  visitCase: VisitCase;
  moves: Moves;
  onTake: (moves: Moves) => void;
}) {
  const { currency } = useStudio();
  const inUnits = useInUnits();
  const [ahead, setAhead] = useState(0);
  const [up, setUp] = useState(0);
  const { case: c } = visitCase;
  const offers = useMemo(
    () =>
      ahead === 0 && up === 0 ? [] : buildsFor({ bike: c.bike, parts: c.parts }, { x: ahead, y: up }, 6),
    [c.bike, c.parts, ahead, up],
  );
  const rest = Object.fromEntries(
    Object.entries(moves).filter(([key]) => CONTROLS[key as ControlKey].stage !== 'cockpit'),
  );
  return (
    <Box component="section" aria-label="Hands elsewhere" sx={{ mt: 3 }}>
      <Typography variant="h2">Hands elsewhere</Typography>
      <Typography variant="body2" color="textSecondary" sx={{ mb: 1 }}>
        Where the hoods should come, from where they are: stems, spacers and bars by how near they get, and
        what they cost.
      </Typography>
      <Box sx={{ display: 'flex', gap: 1.5, mb: 1, '& > *': { width: 150 } }}>
        <LengthField label="Ahead (back is −)" value={ahead} schema={bounds} onChange={setAhead} />
        <LengthField label="Up (down is −)" value={up} schema={bounds} onChange={setUp} />
      </Box>
      {offers.length > 0 && (
        <Table size="small" aria-label="Cockpit builds that come near">
          <TableHead>
            <TableRow>
              <TableCell>Stem, spacers, bar</TableCell>
              <TableCell align="right">Miss</TableCell>
              <TableCell align="right">Price</TableCell>
              <TableCell />
            </TableRow>
          </TableHead>
          <TableBody>
            {offers.map((o) => (
              <TableRow key={o.words}>
                <TableCell>{inUnits(o.words)}</TableCell>
                <TableCell align="right">{Math.round(o.missMm)} mm</TableCell>
                <TableCell align="right">{buildPrice(o, currency)}</TableCell>
                <TableCell align="right">
                  <Button size="small" onClick={() => onTake({ ...rest, ...o.moves })}>
                    On the bench
                  </Button>
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
    </Box>
  );
});
