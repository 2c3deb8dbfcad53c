import { dayPattern } from '../words/dates';
import { DatePicker } from '@mui/x-date-pickers/DatePicker';
import { LocalizationProvider } from '@mui/x-date-pickers/LocalizationProvider';
import { AdapterDayjs } from '@mui/x-date-pickers/AdapterDayjs';
import dayjs, { type Dayjs } from 'dayjs';
import { useState } from 'react';

const STORED = 'YYYY-MM-DD';

interface DayFieldProps {
  label: string;
  /** Day, ISO; null for none. */
  value: string | null;
  /** A whole day, or none at all: what is half typed is kept in the field. */
  onChange: (day: string | null) => void;
  error?: string | null;
}

/** A day, typed or picked, shown as every day here is: 22 Nov 2027. */
export function DayField({ label, value, onChange, error = null }: DayFieldProps) {
  // What stands in the field while a day is being typed, over the value that it began with.
  const [typed, setTyped] = useState<{ over: string | null; day: Dayjs | null } | null>(null);
  const day = typed?.over === value ? typed.day : value === null ? null : dayjs(value);
  return (
    <LocalizationProvider dateAdapter={AdapterDayjs}>
      <DatePicker
        label={label}
        value={day}
        onChange={(next, { validationError }) => {
          // A year that is typed goes through those of the ancients.
          const whole = next !== null && validationError === null;
          const now = next === null ? null : whole ? next.format(STORED) : value;
          setTyped({ over: now, day: next });
          if (now !== value) onChange(now);
        }}
        format={dayPattern()}
        minDate={dayjs('1900-01-01')}
        maxDate={dayjs('2199-12-31')}
        slotProps={{
          textField: { size: 'small', error: error !== null, helperText: error },
          field: { clearable: true },
        }}
      />
    </LocalizationProvider>
  );
}
