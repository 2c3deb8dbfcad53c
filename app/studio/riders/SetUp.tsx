import { joiResolver } from '@hookform/resolvers/joi';
import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import Joi from 'joi';
import { useEffect } from 'react';
import { Controller, useForm } from 'react-hook-form';
import { useSend } from '../../session/useSend';
import { PageDialog } from '../../ui/PageDialog';
import type { Studio } from '../../../core/records/types.ts';
import { PROTOCOLS } from '../../../core/protocol/protocols.ts';
import { Choice } from '../../ui/fields/Choice';
import { LENGTH_CHOICES, PAPER_CHOICES } from '../../ui/words/studioChoices';

type SetUpFields = Pick<Studio, 'name' | 'fitter' | 'contact' | 'lengthUnit' | 'paper' | 'protocolId'>;

const schema = Joi.object<SetUpFields, true>({
  name: Joi.string().trim().min(1).max(120).required().messages({
    'string.empty': 'Type the studio’s name.',
    'string.max': 'A name of at most 120 characters, please.',
  }),
  fitter: Joi.string()
    .trim()
    .allow('')
    .max(120)
    .messages({ 'string.max': 'At most 120 characters, please.' }),
  contact: Joi.string()
    .trim()
    .allow('')
    .max(500)
    .messages({ 'string.max': 'At most 500 characters, please.' }),
  lengthUnit: Joi.string().required(),
  paper: Joi.string().required(),
  protocolId: Joi.string().required(),
});

/** Whose studio it is: name, contact, and how lengths and papers are written. */
export function SetUp({ studio, onClose }: { studio: Studio; onClose: () => void }) {
  const { fetcher, send } = useSend<SetUpFields>('/settings');
  const { lengthUnit, paper, protocolId } = studio;
  const { register, control, handleSubmit, formState } = useForm<SetUpFields>({
    defaultValues: { name: '', fitter: '', contact: '', lengthUnit, paper, protocolId },
    resolver: joiResolver(schema),
  });
  const { errors, isDirty } = formState;
  useEffect(() => {
    if (fetcher.state === 'idle' && fetcher.data === null) onClose();
  }, [fetcher, onClose]);
  const text = (key: 'name' | 'fitter' | 'contact', label: string) => ({
    label,
    error: Boolean(errors[key]),
    helperText: errors[key]?.message,
    ...register(key),
  });
  return (
    <PageDialog open onClose={onClose} unsaved={isDirty} fullWidth maxWidth="sm">
      <form noValidate onSubmit={(e) => void handleSubmit(send)(e)}>
        <DialogTitle>Your studio</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2 }}>
          <Typography color="textSecondary">
            Name, fitter and contact sign what your riders take home. All of it can be changed in Settings.
          </Typography>
          <TextField
            autoFocus
            {...text('name', 'Studio')}
            helperText={errors.name?.message ?? fetcher.data?.message}
          />
          <TextField {...text('fitter', 'Fitter')} />
          <TextField multiline minRows={2} {...text('contact', 'Contact')} />
          <Controller
            control={control}
            name="lengthUnit"
            render={({ field }) => (
              <Choice
                label="Lengths"
                options={LENGTH_CHOICES}
                value={field.value}
                onChange={(unit) => unit && field.onChange(unit)}
              />
            )}
          />
          <Controller
            control={control}
            name="paper"
            render={({ field }) => (
              <Choice
                label="Paper"
                options={PAPER_CHOICES}
                value={field.value}
                onChange={(size) => size && field.onChange(size)}
              />
            )}
          />
          <Controller
            control={control}
            name="protocolId"
            render={({ field }) => (
              <TextField select label="Most of your riders ride" {...field}>
                {PROTOCOLS.map((p) => (
                  <MenuItem key={p.id} value={p.id}>
                    {p.name}
                  </MenuItem>
                ))}
              </TextField>
            )}
          />
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>Cancel</Button>
          <Button type="submit" variant="contained" disabled={fetcher.state !== 'idle'}>
            Open the studio
          </Button>
        </DialogActions>
      </form>
    </PageDialog>
  );
}
