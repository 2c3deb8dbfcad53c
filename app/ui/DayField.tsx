import { DatePicker } from '@mui/x-date-pickers/DatePicker';
import { LocalizationProvider } from '@mui/x-date-pickers/LocalizationProvider';
import { AdapterDayjs } from '@mui/x-date-pickers/AdapterDayjs';
import dayjs from 'dayjs';

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
  return (
    <LocalizationProvider dateAdapter={AdapterDayjs}>
      <DatePicker
        label={label}
        value={value === null ? null : dayjs(value)}
        onChange={(day, { validationError }) => {
          if (day === null) onChange(null);
          // A year that is typed goes through those of the ancients.
          else if (validationError === null) onChange(day.format(STORED));
        }}
        format="D MMM YYYY"
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
