import Box from '@mui/material/Box';
import Joi from 'joi';
import type { Take } from '../../core/records/types.ts';
import { Choice } from './Choice';
import { NumberField } from './NumberField';
import { EFFORTS, POSITIONS, VIEWS } from './takeWords';
import { WordsField } from './WordsField';

const WATTS = Joi.number().min(0).max(2500).messages({
  'number.min': 'From 0 to 2500 W.',
  'number.max': 'From 0 to 2500 W.',
});

/** How a take was ridden: side, hands, effort, a note. */
export function TakeDetails({
  take,
  index,
  set,
}: {
  take: Take;
  index: number;
  set: (at: string, value: unknown) => void;
}) {
  const put = (name: string) => (value: unknown) => set(`takes.${index}.${name}`, value);
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Choice label="Side" options={VIEWS} value={take.view} onChange={(v) => v && put('view')(v)} />
      <Choice label="Hands on the" options={POSITIONS} value={take.position} onChange={put('position')} />
      <Choice label="Effort" options={EFFORTS} value={take.effort} onChange={put('effort')} />
      <NumberField
        label="Power"
        unit="W"
        optional
        value={take.effortW}
        schema={WATTS}
        onChange={put('effortW')}
      />
      <WordsField label="Note" most={2000} value={take.note} onChange={put('note')} />
    </Box>
  );
}
