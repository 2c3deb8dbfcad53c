import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { Link, useFormAction, useSubmit } from 'react-router';
import type { RiderOrder } from '../../../core/visit/summaries.ts';
import { TRASH_DAYS } from '../../../core/visit/visits.ts';
import { notify } from '../../session/notices';
import { underWay } from '../../storage/saveState';
import { Choice } from '../../ui/fields/Choice';
import { many } from '../../ui/words/many';

export const ORDERS: readonly (readonly [RiderOrder, string])[] = [
  ['visit', 'last visit'],
  ['name', 'name'],
  ['due', 'next follow-up'],
  ['complaints', 'worst complaint'],
];

/** What finds and sorts the riders, and puts the sample riders away. */
export function ListTools({
  words,
  onWords,
  order,
  onOrder,
  samples,
  trashed,
}: {
  words: string;
  onWords: (words: string) => void;
  order: RiderOrder;
  onOrder: (order: RiderOrder) => void;
  /** How many of the riders came with the application. */
  samples: number;
  trashed: number;
}) {
  const submit = useSubmit();
  // Of this page, also where the Undo is pressed on another.
  const action = useFormAction();
  const move = (samples: 'remove' | 'restore'): void =>
    void underWay(() => submit({ samples }, { method: 'post', navigate: false, action }));
  return (
    <Box sx={{ display: 'flex', gap: 3, alignItems: 'flex-end', flexWrap: 'wrap' }}>
      <TextField
        type="search"
        size="small"
        label="Find a rider"
        value={words}
        onChange={(e) => onWords(e.target.value)}
        sx={{ width: 300 }}
      />
      <Choice label="Sort by" options={ORDERS} value={order} onChange={(v) => v && onOrder(v)} />
      <Box sx={{ flex: 1 }} />
      {samples > 0 && (
        <Button
          onClick={() => {
            move('remove');
            notify(
              `${many(samples, 'sample rider')} removed, and the sample parts. They stay in the trash for ${TRASH_DAYS} days.`,
              () => move('restore'),
            );
          }}
        >
          Remove the sample riders
        </Button>
      )}
      {trashed > 0 && (
        <Button component={Link} to="/trash">
          Trash ({trashed})
        </Button>
      )}
    </Box>
  );
}
