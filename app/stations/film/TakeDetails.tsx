import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Joi from 'joi';
import { couldPair, partnerOf } from '../../../core/visit/pairs.ts';
import type { FitSession, Take } from '../../../core/records/types.ts';
import { Choice } from '../../ui/fields/Choice';
import { NumberField } from '../../ui/fields/NumberField';
import { EFFORTS, POSITIONS, takeText, VIEWS } from '../../ui/words/takeWords';
import { WordsField } from '../../ui/fields/WordsField';

const WATTS = Joi.number().min(0).max(2500).messages({
  'number.min': 'From 0 to 2500 W.',
  'number.max': 'From 0 to 2500 W.',
});

const CADENCE = Joi.number().min(20).max(220).messages({
  'number.min': 'From 20 to 220 turns a minute.',
  'number.max': 'From 20 to 220 turns a minute.',
});

/** Which take of the other side belongs to this one: found by itself, or chosen. */
function Pair({
  session,
  take,
  onPair,
}: {
  session: FitSession;
  take: Take;
  onPair: (takeId: string | null) => void;
}) {
  const others = couldPair(session, take);
  const partner = partnerOf(session, take);
  if (others.length === 0) return null;
  const chosen = take.pairWith !== null && partner?.id === take.pairWith;
  return (
    <TextField
      select
      size="small"
      label="Belongs to, of the other side"
      value={chosen ? take.pairWith : 'auto'}
      onChange={(e) => onPair(e.target.value === 'auto' ? null : e.target.value)}
    >
      <MenuItem value="auto">
        {chosen || !partner
          ? 'whichever was ridden the same way'
          : `ridden the same way: ${takeText(partner)}`}
      </MenuItem>
      {others.map((t) => (
        <MenuItem key={t.id} value={t.id}>
          {takeText(t)} ({t.clipName})
        </MenuItem>
      ))}
    </TextField>
  );
}

/** Which earlier take of the same set-up this one repeats: the two tell how much this rider differs from ride to ride. */
function Repeats({
  session,
  take,
  onRepeat,
}: {
  session: FitSession;
  take: Take;
  onRepeat: (takeId: string | null) => void;
}) {
  const others = session.takes.filter(
    (t) => t.id !== take.id && t.view === take.view && t.round === take.round && t.baselineOf !== take.id,
  );
  if (others.length === 0) return null;
  return (
    <TextField
      select
      size="small"
      label="Repeats, off the bike and on again"
      helperText="Ridden twice before anything is moved: changes are then separated from this rider’s own noise."
      value={others.some((t) => t.id === take.baselineOf) ? take.baselineOf : ''}
      onChange={(e) => onRepeat(e.target.value || null)}
    >
      <MenuItem value="">none</MenuItem>
      {others.map((t) => (
        <MenuItem key={t.id} value={t.id}>
          {takeText(t)} ({t.clipName})
        </MenuItem>
      ))}
    </TextField>
  );
}

/** How a take was ridden: side, hands, effort, a note. */
export function TakeDetails({
  session,
  take,
  set,
}: {
  session: FitSession;
  take: Take;
  set: (at: string, value: unknown) => void;
}) {
  const put = (name: string) => (value: unknown) => set(`takes.#${take.id}.${name}`, value);
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <Choice label="Camera on the" options={VIEWS} value={take.view} onChange={(v) => v && put('view')(v)} />
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
      <NumberField
        label="Cadence, stated"
        unit="rpm"
        optional
        value={take.cadenceRpm}
        schema={CADENCE}
        onChange={put('cadenceRpm')}
      />
      <Pair session={session} take={take} onPair={put('pairWith')} />
      <Repeats session={session} take={take} onRepeat={put('baselineOf')} />
      <WordsField label="Note" most={2000} value={take.note} onChange={put('note')} />
    </Box>
  );
}
