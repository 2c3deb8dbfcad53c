import { isDay } from '../../core/units/day.ts';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import dayjs from 'dayjs';
import { nanoid } from 'nanoid';
import { useEffect, useState } from 'react';
import type { FollowUp } from '../../core/records/followUp.ts';
import { dueText } from './words/dueText';

/** When a fit is looked at again (handbook: the job): after a few rides, after six to eight weeks, then yearly. */
const USUAL = [
  { weeks: 2, why: 'A few rides in: a call' },
  { weeks: 7, why: 'Check, on the bike' },
  { weeks: 52, why: 'Yearly check' },
] as const;

/** The days on which a rider is to be heard or seen again: proposed by the usual rhythm, any day by hand, ticked off when done. */
export function FollowUps({
  list: stored,
  onChange: store,
}: {
  list: readonly FollowUp[];
  onChange: (list: FollowUp[]) => void;
}) {
  // What was just done shows at once, not only when it has been stored.
  const [list, setList] = useState(stored);
  const storedText = JSON.stringify(stored);
  useEffect(() => setList(JSON.parse(storedText) as FollowUp[]), [storedText]);
  const onChange = (next: FollowUp[]): void => {
    setList(next);
    store(next);
  };
  const today = dayjs().format('YYYY-MM-DD');
  const [day, setDay] = useState('');
  const [why, setWhy] = useState('');
  const [trouble, setTrouble] = useState<string | null>(null);
  const add = (due: string, reason: string): void =>
    onChange([...list, { id: nanoid(), due, why: reason, doneIso: null }]);
  const byHand = (): void => {
    if (!isDay(day)) {
      setTrouble('Choose the day.');
      return;
    }
    setTrouble(null);
    add(day, why.trim());
    setDay('');
    setWhy('');
  };
  const sorted = [...list].sort((a, b) => a.due.localeCompare(b.due));
  return (
    <Box>
      {sorted.map((f) => {
        const due = dueText(f.due, today);
        return (
          <Box
            key={f.id}
            sx={{ display: 'flex', alignItems: 'center', borderBottom: 1, borderColor: 'divider' }}
          >
            <FormControlLabel
              sx={{ flex: 1 }}
              control={
                <Checkbox
                  checked={f.doneIso !== null}
                  onChange={(e) =>
                    onChange(
                      list.map((g) =>
                        g.id === f.id
                          ? { ...g, doneIso: e.target.checked ? new Date().toISOString() : null }
                          : g,
                      ),
                    )
                  }
                />
              }
              label={
                <>
                  <strong>{due.day}</strong> {f.why}{' '}
                  <Typography component="span" color="textSecondary">
                    {f.doneIso ? `done ${dayjs(f.doneIso).format('D MMM YYYY')}` : due.words}
                  </Typography>
                </>
              }
            />
            <Button size="small" onClick={() => onChange(list.filter((g) => g.id !== f.id))}>
              Remove
            </Button>
          </Box>
        );
      })}
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1.5 }}>
        {USUAL.filter((u) => !list.some((f) => f.why === u.why && f.doneIso === null)).map((u) => (
          <Button
            key={u.weeks}
            variant="outlined"
            size="small"
            onClick={() => add(dayjs().add(u.weeks, 'week').format('YYYY-MM-DD'), u.why)}
          >
            {u.weeks === 52 ? 'In a year' : `In ${u.weeks} weeks`}
          </Button>
        ))}
      </Box>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1.5, alignItems: 'flex-start' }}>
        <TextField
          type="date"
          size="small"
          label="Another day"
          value={day}
          onChange={(e) => setDay(e.target.value)}
          error={trouble !== null}
          helperText={trouble}
          slotProps={{ inputLabel: { shrink: true } }}
        />
        <TextField
          size="small"
          label="What for"
          value={why}
          onChange={(e) => setWhy(e.target.value)}
          onKeyDown={(e) => e.key === 'Enter' && byHand()}
          slotProps={{ htmlInput: { maxLength: 300 } }}
          sx={{ flex: 1, minWidth: 160 }}
        />
        <Button onClick={byHand} sx={{ minHeight: 40 }}>
          Add
        </Button>
      </Box>
    </Box>
  );
}
