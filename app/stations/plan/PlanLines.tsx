import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { Moves } from '../../../core/plan/controls/controls.ts';
import type { Decision, PlanCase, PlanLine, Prescription } from '../../../core/plan/terms/plan.ts';
import { lineTitle } from '../../ui/words/moveText';
import { useStudio } from '../../session/useStudio';
import { Line } from './PlanLine';

/** The lines of one part of a plan in order: what, from where to where, why, what it will do; taken, changed or left. */
export function PlanLines({
  label,
  lines,
  first,
  planned,
  plan,
  done,
  onDecide,
  onOrder,
  onDone,
}: {
  label: string;
  lines: readonly PlanLine[];
  /** Number of the first line. */
  first: number;
  planned: PlanCase;
  plan: Prescription;
  /** Whether a line's moves are on the bike already. */
  done: (line: PlanLine) => boolean;
  onDecide: (key: string, decision: Decision | null) => void;
  onOrder: (keys: string[]) => void;
  onDone: (line: PlanLine) => void;
}) {
  const swap = (i: number, by: -1 | 1): void => {
    const keys = lines.map((l) => l.key);
    [keys[i], keys[i + by]] = [keys[i + by], keys[i]];
    onOrder(keys);
  };
  return (
    <Box component="ol" aria-label={label} sx={{ listStyle: 'none', m: 0, p: 0 }}>
      {lines.map((line, i) => (
        <Line
          key={line.key}
          line={line}
          number={first + i}
          planned={planned}
          plan={plan}
          done={done(line)}
          onDecide={(d) => onDecide(line.key, d)}
          onUp={i > 0 ? () => swap(i, -1) : null}
          onDown={i < lines.length - 1 ? () => swap(i, 1) : null}
          onDone={onDone}
        />
      ))}
    </Box>
  );
}

/** Lines that wait or were left, each in a row with its reason. */
export function QuietLines({
  label,
  lines,
  note,
  action,
}: {
  label: string;
  lines: readonly PlanLine[];
  note: (line: PlanLine) => string[];
  action?: { words: string; does: (line: PlanLine) => void };
}) {
  const { lengthUnit } = useStudio();
  const wanted = (l: PlanLine): Moves => (Object.keys(l.whole).length ? l.whole : l.moves);
  return (
    <Box component="ul" aria-label={label} sx={{ m: 0, p: 0, listStyle: 'none' }}>
      {lines.map((l) => (
        <Box
          component="li"
          key={l.key}
          sx={{
            display: 'flex',
            gap: 1.5,
            alignItems: 'baseline',
            py: 0.75,
            borderTop: 1,
            borderColor: 'divider',
          }}
        >
          <Box sx={{ flex: 1, minWidth: 0 }}>
            <Typography sx={{ fontWeight: 560 }}>
              {l.further && 'Further: '}
              {lineTitle(l.key, wanted(l), lengthUnit, l.title)}
            </Typography>
            {note(l).map((t) => (
              <Typography key={t} variant="body2" color="textSecondary">
                {t}
              </Typography>
            ))}
          </Box>
          {action && (
            <Button className="no-print" onClick={() => action.does(l)}>
              {action.words}
            </Button>
          )}
        </Box>
      ))}
    </Box>
  );
}
