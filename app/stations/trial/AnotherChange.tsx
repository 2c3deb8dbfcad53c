import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { PageDialog } from '../../ui/PageDialog';
import type { BikeSetup } from '../../../core/bike/setup.ts';
import { cannot, standsAt } from '../../../core/plan/controls/controls.ts';
import { CONTROL_KEYS, CONTROLS, type ControlKey } from '../../../core/plan/controls/controlTable.ts';
import { valuesOf } from '../../../core/visit/progress.ts';
import { ControlField } from '../../ui/fields/ControlField';
import { byText } from '../../ui/words/moveText';
import { useStudio } from '../../session/useStudio';

/** Something that is not the plan's next step: any control that was measured on this bike, by any amount it can be moved. */
export function AnotherChange({
  bike,
  onMake,
}: {
  bike: BikeSetup;
  onMake: (values: { at: string; value: unknown }[]) => void;
}) {
  const { lengthUnit } = useStudio();
  const [open, setOpen] = useState(false);
  const there = CONTROL_KEYS.filter((key) => standsAt(bike, key) !== null);
  const [key, setKey] = useState<ControlKey>('saddleUp');
  const [by, setBy] = useState(0);
  const chosen = there.includes(key) ? key : there[0];
  const trouble = chosen && by !== 0 ? cannot(bike, { [chosen]: by }) : null;
  const [tried, setTried] = useState(false);
  // Never disabled while a value is being typed: the click that ends the typing is the one that counts.
  const make = (): void => {
    setTried(true);
    if (!chosen || by === 0 || trouble !== null) return;
    onMake(valuesOf(bike, { [chosen]: by }));
    setOpen(false);
    setBy(0);
    setTried(false);
  };
  return (
    <>
      <Button onClick={() => setOpen(true)}>Something else…</Button>
      <PageDialog open={open} onClose={() => setOpen(false)} fullWidth maxWidth="xs">
        <form
          noValidate
          onSubmit={(e) => {
            e.preventDefault();
            make();
          }}
        >
          <DialogTitle>Something else</DialogTitle>
          <DialogContent sx={{ display: 'grid', gap: 2, pt: 1 }}>
            {there.length === 0 ? (
              <Typography>Nothing was measured on this bike yet: type its figures on Bike first.</Typography>
            ) : (
              <>
                <TextField
                  select
                  label="What is moved"
                  value={chosen}
                  onChange={(e) => {
                    setKey(e.target.value as ControlKey);
                    setBy(0);
                  }}
                  sx={{ mt: 1 }}
                >
                  {there.map((k) => (
                    <MenuItem key={k} value={k}>
                      {CONTROLS[k].name}
                    </MenuItem>
                  ))}
                </TextField>
                <ControlField
                  control={chosen}
                  label={`${CONTROLS[chosen].name}, to`}
                  from={standsAt(bike, chosen)}
                  by={by}
                  onChange={setBy}
                />
                {/* Of one height whatever is said: the button stays under the pointer when the typing ends with a click on it. */}
                <Box sx={{ height: 100, overflowY: 'auto' }}>
                  {by !== 0 && <Typography>{byText(chosen, by, lengthUnit)}</Typography>}
                  {tried && by === 0 && (
                    <Typography role="alert" color="error">
                      It is there already: type another value.
                    </Typography>
                  )}
                  {trouble && (
                    <Typography role="alert" color="error">
                      Impossible: {trouble}.
                    </Typography>
                  )}
                </Box>
              </>
            )}
          </DialogContent>
          <DialogActions>
            <Button onClick={() => setOpen(false)}>Cancel</Button>
            <Button type="submit" variant="contained" disabled={there.length === 0}>
              On the bike
            </Button>
          </DialogActions>
        </form>
      </PageDialog>
    </>
  );
}
