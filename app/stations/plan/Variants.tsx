import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { nanoid } from 'nanoid';
import { memo, useMemo } from 'react';
import { effectsOf, type Moves } from '../../../core/plan/controls/controls.ts';
import { forecastOf, preparedOnce } from '../../../core/model/forecast.ts';
import { bodyOf } from '../../../core/plan/terms/plan.ts';
import type { Variant } from '../../../core/plan/terms/planning.ts';
import { measureName, verdictWords } from '../../../core/protocol/convention.ts';
import { quoted, type Convention } from '../../ui/words/angleText';
import { movesText } from '../../ui/words/moveText';
import type { VisitCase } from '../../../core/visit/visitCase.ts';
import { useStudio } from '../../session/useStudio';
import { WordsField } from '../../ui/fields/WordsField';
import { FieldPlace } from '../../session/useTyped';

const MOST = 12;

/** Named sets of moves side by side: what each moves, and what each predicts. */
export const Variants = memo(function Variants({
  visitCase,
  moves,
  list,
  convention,
  onChange,
  onTake,
}: {
  visitCase: VisitCase;
  moves: Moves;
  list: readonly Variant[];
  convention: Convention;
  onChange: (list: Variant[]) => void;
  onTake: (moves: Moves) => void;
}) {
  const { lengthUnit } = useStudio();
  const { case: c, measures } = visitCase;
  const near = c.sides[0].model;
  const forecasts = useMemo(
    () =>
      list.map((v) =>
        forecastOf(preparedOnce(near), {
          measured: measures,
          fx: effectsOf(c.bike, v.moves),
          habits: c.habits,
          body: bodyOf(c),
        }),
      ),
    [list, near, measures, c],
  );
  const add = (): void => {
    const used = new Set(list.map((v) => v.name));
    const name = [...'ABCDEFGHIJKL'].find((letter) => !used.has(letter)) ?? `${list.length + 1}`;
    onChange([...list, { id: nanoid(8), name, moves }]);
  };
  return (
    <Box component="section" aria-label="Variants" sx={{ mt: 3 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, mb: 1 }}>
        <Typography variant="h2">Variants</Typography>
        <Button variant="outlined" disabled={list.length >= MOST} onClick={add}>
          Keep this as a variant
        </Button>
      </Box>
      {list.length === 0 ? (
        <Typography color="textSecondary">
          None yet. Put something on the bench and keep it; a second one is then compared with it.
        </Typography>
      ) : (
        <Box sx={{ overflowX: 'auto' }}>
          <Table size="small" aria-label="Variants compared">
            <TableHead>
              <TableRow>
                <TableCell />
                <TableCell align="right">As filmed</TableCell>
                {list.map((v) => (
                  <TableCell key={v.id} sx={{ minWidth: 150 }}>
                    <FieldPlace value={v.id}>
                      <WordsField
                        label="Name"
                        value={v.name}
                        most={60}
                        onChange={(name) =>
                          onChange(
                            list.map((q) => (q.id === v.id ? { ...q, name: name.trim() || q.name } : q)),
                          )
                        }
                      />
                    </FieldPlace>
                  </TableCell>
                ))}
              </TableRow>
            </TableHead>
            <TableBody>
              <TableRow>
                <TableCell sx={{ fontWeight: 650 }}>Moves</TableCell>
                <TableCell />
                {list.map((v) => (
                  <TableCell key={v.id} sx={{ verticalAlign: 'top' }}>
                    {movesText(v.moves, lengthUnit)}
                  </TableCell>
                ))}
              </TableRow>
              {measures.map((m) => {
                const unit = m.unit === '°' ? '°' : ' mm';
                const show = (value: number): string =>
                  `${quoted(m.key, value, convention).toFixed(0).replace('-', '−')}${unit}`;
                return (
                  <TableRow key={m.key}>
                    <TableCell>{measureName(m.key, convention)}</TableCell>
                    <TableCell align="right">{show(m.value)}</TableCell>
                    {list.map((v, k) => {
                      const f = forecasts[k];
                      const q = f.ok ? f.measures.find((p) => p.key === m.key) : undefined;
                      return (
                        <TableCell key={v.id} sx={{ fontWeight: q && q.verdict !== 'in' ? 650 : 400 }}>
                          {!f.ok
                            ? 'can’t be reached'
                            : q
                              ? `${show(q.after)}, ${verdictWords(q.key, q.verdict, convention)}`
                              : 'film again'}
                        </TableCell>
                      );
                    })}
                  </TableRow>
                );
              })}
              <TableRow>
                <TableCell />
                <TableCell />
                {list.map((v) => (
                  <TableCell key={v.id}>
                    <Button size="small" onClick={() => onTake(v.moves)}>
                      On the bench
                    </Button>
                    <Button size="small" onClick={() => onChange(list.filter((q) => q.id !== v.id))}>
                      Remove
                    </Button>
                  </TableCell>
                ))}
              </TableRow>
            </TableBody>
          </Table>
        </Box>
      )}
    </Box>
  );
});
