import { useMemo } from 'react';
import { GUIDES, LINES, type Landmark } from '../../../core/landmarks/landmarks.ts';
import type { ImagePoint } from '../../../core/math/vec.ts';
import type { Take } from '../../../core/records/types.ts';
import { settleAxle, settlePoint, type TakeSurvey } from '../../jobs/surveys';
import { BoardOverlay } from '../../ui/film/BoardOverlay.client';
import type { BoardItem, BoardPoints } from '../../ui/film/boardPoints';
import type { ViewSize } from '../../ui/film/ClipView';

const AXLES: readonly BoardItem[] = [
  { key: 'rear', name: 'Rear axle', plain: 'rear axle', place: '', quiet: true },
  { key: 'front', name: 'Front axle', plain: 'front axle', place: '', quiet: true },
];
const WHEEL_LINES = [
  ['rear', 'front'],
  ['rearTop', 'rearBottom'],
  ['frontTop', 'frontBottom'],
] as const;

/** What was found on the film, over it: joints, axles and wheels, each to be dragged; what is asked for is set by a tap. */
export function SurveyOverlay({
  size,
  take,
  survey,
  pending,
  snap,
}: {
  size: ViewSize;
  take: Take;
  survey: TakeSurvey;
  pending: Landmark | null;
  snap: (frame: number, at: ImagePoint) => Promise<ImagePoint | null>;
}) {
  const points = useMemo(() => {
    const { wheels } = survey;
    const plain = (p: ImagePoint) => ({ x: p.x, y: p.y, onSticker: false });
    const all: BoardPoints = { ...survey.points };
    if (wheels)
      for (const [key, p] of Object.entries({ rear: wheels.rear, front: wheels.front, ...wheels.rims }))
        all[key] = plain(p);
    return all;
  }, [survey]);
  const put = async (key: Landmark, at: ImagePoint): Promise<void> => {
    settlePoint(take.id, key, { ...at, onSticker: false });
    const centre = await snap(survey.frame!, at);
    if (centre) settlePoint(take.id, key, { ...centre, onSticker: true });
  };
  return (
    <BoardOverlay
      size={size}
      items={[...GUIDES[take.view], ...AXLES]}
      points={points}
      lines={[...LINES[take.view], ...WHEEL_LINES]}
      selected={pending}
      faded={false}
      onHover={() => undefined}
      onPlace={(at) => pending && void put(pending, at)}
      onSelect={() => undefined}
      onDrag={() => undefined}
      onDrop={(key, at) =>
        key === 'rear' || key === 'front' ? settleAxle(take.id, key, at) : void put(key as Landmark, at)
      }
    />
  );
}
