import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { resolveBike } from '../../../core/bike/resolve.ts';
import { differences, setupNow } from '../../../core/visit/setups.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { BikeDrawing } from '../../ui/drawings/BikeDrawing';
import { BikeFields } from './BikeFields';
import { BikeFollows } from './BikeFollows';
import { Choice } from '../../ui/fields/Choice';
import { CopyBike } from './CopyBike';
import { Desk } from '../../ui/Desk';
import { Moves, ValueMove } from '../../ui/Moves';
import { useSet } from '../../session/useSet';
import { FieldPlace } from '../../session/useTyped';
import { WordsField } from '../../ui/fields/WordsField';
import { useSession } from '../session';

type Which = 'asFound' | 'current' | 'final';

const WHICH: readonly (readonly [Which, string])[] = [
  ['asFound', 'as found'],
  ['current', 'as it is now'],
  ['final', 'handed over'],
];
const TITLES: Record<Which, [note: string, side: string]> = {
  asFound: ['measured before anyone touches it', 'As it came in'],
  current: ['what you change here is logged as moved', 'As it is now'],
  final: ['how the bike left: what rebuilds it', 'As handed over'],
};

export default function Bike() {
  const { session } = useSession();
  const [which, setWhich] = useState<Which>(session.current && !session.final ? 'current' : 'asFound');
  const { set, move, putBack, refused } = useSet();
  const bike =
    which === 'asFound' ? session.asFound : which === 'current' ? setupNow(session) : session.final;
  const resolved = useMemo(() => (bike ? resolveBike(bike) : null), [bike]);
  const put = (at: string) => (value: unknown) =>
    which === 'current' ? move([{ at, value }]) : set(`${which}.${at}`, value);
  const [note, sideTitle] = TITLES[which];
  return (
    <Desk
      sideLabel="What follows"
      sideWidth={520}
      side={
        <>
          {bike && resolved && (
            <Box sx={{ mb: 2.5 }}>
              <BikeDrawing bike={bike} resolved={resolved} />
            </Box>
          )}
          {which === 'current' && (
            <Box sx={{ mb: 3 }}>
              <Typography variant="h2" gutterBottom>
                Moved so far
              </Typography>
              {session.changes.length === 0 && (
                <Typography color="textSecondary">Nothing: the bike stands as it came in.</Typography>
              )}
              <Moves
                changes={session.changes}
                onWord={(id, word) => set(`changes.#${id}.word`, word)}
                onPutBack={putBack}
              />
            </Box>
          )}
          {which === 'final' && session.final && <Since session={session} />}
          {bike && resolved && <BikeFollows title={sideTitle} bike={bike} resolved={resolved} />}
        </>
      }
    >
      {refused && <Alert severity="error">{refused}</Alert>}
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 2, alignItems: 'center', mb: 1.5 }}>
        <Choice
          label="The set-up"
          hideLabel
          options={WHICH}
          value={which}
          onChange={(v) => v && setWhich(v)}
        />
        <Typography variant="body2" color="textSecondary" sx={{ flex: 1 }}>
          {note}
        </Typography>
        {which === 'asFound' && <CopyBike session={session} onCopy={(copy) => set('asFound', copy)} />}
      </Box>
      {which === 'asFound' && bike && (
        <Box sx={{ mb: 2, maxWidth: 420, display: 'grid' }}>
          <WordsField label="Which bike" most={200} value={bike.name} onChange={put('name')} />
        </Box>
      )}
      {!bike && <Typography>Not handed over yet.</Typography>}
      {which === 'final' && (
        <Button
          sx={{ mb: 2 }}
          variant={session.final ? 'outlined' : 'contained'}
          onClick={() => set('final', setupNow(session))}
        >
          {session.final ? 'Hand over again, as it is now' : 'Hand over as it is now'}
        </Button>
      )}
      {bike && resolved && (
        // What is half typed into one of the three is not the others’.
        <FieldPlace value={which}>
          <BikeFields key={which} bike={bike} resolved={resolved} put={put} />
        </FieldPlace>
      )}
    </Desk>
  );
}

/** What the bike left with that it had not come with. */
function Since({ session }: { session: FitSession }) {
  const moves = differences(session.asFound, session.final!);
  return (
    <Box sx={{ mb: 3 }}>
      <Typography variant="h2" gutterBottom>
        From as found to handed over
      </Typography>
      {moves.length === 0 ? (
        <Typography color="textSecondary">Nothing differs.</Typography>
      ) : (
        moves.map((v) => <ValueMove key={v.at} v={v} />)
      )}
    </Box>
  );
}
