import { joiResolver } from '@hookform/resolvers/joi';
import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Joi from 'joi';
import { useForm } from 'react-hook-form';
import { useNavigation, useSubmit } from 'react-router';
import { PageDialog } from '../../ui/PageDialog';
import { riderName } from '../../../core/records/schemas.ts';
import { underWay } from '../../storage/saveState';

interface NewRiderFields {
  name: string;
  note: string;
}

const schema = Joi.object<NewRiderFields>({
  name: riderName.required(),
  note: Joi.string().allow('').max(2000),
});

/** Who is new, and why they came: the first visit begins with it. */
export function NewRider({
  open,
  onClose,
  refused,
}: {
  open: boolean;
  onClose: () => void;
  /** What kept the last one from being stored; null for nothing. */
  refused: string | null;
}) {
  const submit = useSubmit();
  const busy = useNavigation().state !== 'idle';
  const { register, handleSubmit, formState } = useForm<NewRiderFields>({
    defaultValues: { name: '', note: '' },
    resolver: joiResolver(schema),
  });
  const trouble = formState.errors.name?.message ?? refused;
  return (
    <PageDialog open={open} onClose={onClose} unsaved={formState.isDirty && !busy} fullWidth maxWidth="sm">
      <form
        noValidate
        onSubmit={(e) =>
          void handleSubmit((fields) => underWay(() => submit({ ...fields }, { method: 'post' })))(e)
        }
      >
        <DialogTitle>New rider</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2, pt: 1 }}>
          <TextField
            label="Name"
            autoFocus
            error={Boolean(trouble)}
            helperText={trouble}
            sx={{ mt: 1 }}
            {...register('name')}
          />
          <TextField
            label="Why they came"
            multiline
            minRows={2}
            error={Boolean(formState.errors.note)}
            helperText={formState.errors.note?.message}
            {...register('note')}
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" variant="contained" disabled={busy}>
            Start the visit
          </Button>
        </DialogActions>
      </form>
    </PageDialog>
  );
}
