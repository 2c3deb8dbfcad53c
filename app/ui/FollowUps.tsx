import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { ascending } from 'd3';
import dayjs from 'dayjs';
import { nanoid } from 'nanoid';
import { joiResolver } from '@hookform/resolvers/joi';
import Joi from 'joi';
import { useState } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { daySchema } from '../../core/records/daySchema.ts';
import { DayField } from './fields/DayField';
import type { FollowUp } from '../../core/records/followUp.ts';
import { dueText } from './words/dueText';
import { dayText } from './words/dates';

/** When a fit is looked at again (handbook: the job): after a few rides, after six to eight weeks, then yearly. */
const USUAL = [
  { weeks: 2, why: 'A few rides in: a call' },
  { weeks: 7, why: 'Check, on the bike' },
  { weeks: 52, why: 'Yearly check' },
] as const;

/** A follow-up on a day of one's own choice, as it is being filled in. */
interface ByHand {
  due: string | null;
  why: string;
}
const NOTHING_TYPED: ByHand = { due: null, why: '' };
const byHandSchema = Joi.object<ByHand>({
  due: daySchema.required().messages({ '*': 'Choose the day.' }),
  why: Joi.string().allow('').max(300),
});

/** The days on which a rider is to be heard or seen again: proposed by the usual rhythm, any day by hand, ticked off when done. */
export function FollowUps({
  list: stored,
  onChange: store,
}: {
  list: readonly FollowUp[];
  onChange: (list: FollowUp[]) => void;
}) {
  // What was just done shows at once, not only when it has been stored.
  const storedText = JSON.stringify(stored);
  const [own, setOwn] = useState<{ over: string; list: readonly FollowUp[] } | null>(null);
  const list = own?.over === storedText ? own.list : stored;
  const onChange = (next: FollowUp[]): void => {
    setOwn({ over: storedText, list: next });
    store(next);
  };
  const today = dayjs().format('YYYY-MM-DD');
  const form = useForm<ByHand>({ defaultValues: NOTHING_TYPED, resolver: joiResolver(byHandSchema) });
  const add = (due: string, reason: string): void =>
    onChange([...list, { id: nanoid(), due, why: reason, doneIso: null }]);
  const byHand = form.handleSubmit(({ due, why }) => {
    add(due!, why.trim());
    form.reset(NOTHING_TYPED);
  });
  const sorted = [...list].sort((a, b) => ascending(a.due, b.due));
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
                    {f.doneIso ? `done ${dayText(f.doneIso)}` : due.words}
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
      <Box
        component="form"
        onSubmit={(e) => void byHand(e)}
        noValidate
        sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1.5, alignItems: 'flex-start' }}
      >
        <Controller
          control={form.control}
          name="due"
          render={({ field, fieldState }) => (
            <DayField
              label="Another day"
              value={field.value}
              onChange={field.onChange}
              error={fieldState.error?.message}
            />
          )}
        />
        <TextField
          size="small"
          label="What for"
          {...form.register('why')}
          slotProps={{ htmlInput: { maxLength: 300 } }}
          sx={{ flex: 1, minWidth: 160 }}
        />
        <Button type="submit" sx={{ minHeight: 40 }}>
          Add
        </Button>
      </Box>
    </Box>
  );
}
