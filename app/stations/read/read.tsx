import { openTake } from '../../../core/records/types.ts';
import { isFrontal } from '../../../core/landmarks/landmarks.ts';
import { FrontalGate } from './FrontalGate';
import { ReadFrontal } from './ReadFrontal';
import { ReadingGate } from '../../ui/ReadingGate';
import { ReadSide } from './ReadSide';
import { useSession } from '../session';

export default function Read() {
  const { session } = useSession();
  const take = openTake(session);
  if (take && isFrontal(take.view)) {
    return (
      <FrontalGate session={session} take={take}>
        {(reading, tracks) => <ReadFrontal session={session} take={take} reading={reading} tracks={tracks} />}
      </FrontalGate>
    );
  }
  return (
    <ReadingGate session={session}>
      {(reading, tracks) => <ReadSide session={session} reading={reading} tracks={tracks} />}
    </ReadingGate>
  );
}
