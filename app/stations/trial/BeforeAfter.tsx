import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import { resolveBike } from '../../../core/bike/resolve.ts';
import { ANGLE_KEYS, ANGLE_NAMES, type AngleKey } from '../../../core/kinematics/angles.ts';
import type { FitSession, Take } from '../../../core/records/types.ts';
import { isFrontal } from '../../../core/landmarks/landmarks.ts';
import type { Reading } from '../../../core/kinematics/read.ts';
import { outlineAt } from '../../../core/model/outlines.ts';
import { pairByPhase } from '../../../core/kinematics/crankPhase.ts';
import { setupOf } from '../../../core/visit/rounds.ts';
import { quoted } from '../../ui/words/angleText';
import { ChartTools } from '../../charts/ChartTools';
import { NeedsFirst } from '../../ui/NeedsFirst';
import { OutcomeTable } from './OutcomeTable';
import { OutlineDrawing } from '../../ui/drawings/OutlineDrawing';
import { PhasePlayer } from './PhasePlayer';
import { StrokeChart } from '../../charts/StrokeChart';
import { takeText } from '../../ui/words/takeWords';
import { useStudio } from '../../session/useStudio';
import { useTakeReadings } from '../../jobs/useTakeResults';
import { useEarlierVisit } from '../../session/useEarlierVisit';
import { Working } from '../../ui/Working';

/** A take that can stand for before or after, of this visit or the one it follows. */
interface Offer {
  session: FitSession;
  take: Take;
  name: string;
}

const offersOf = (session: FitSession, earlier: FitSession | null): Offer[] =>
  [...(earlier ? [{ s: earlier, word: 'last visit, ' }] : []), { s: session, word: '' }].flatMap(
    ({ s, word }) =>
      s.takes
        .filter((t) => !isFrontal(t.view) && t.tracking.state !== 'none')
        .map((take) => ({ session: s, take, name: `${word}round ${take.round}: ${takeText(take)}` })),
  );

/** Before and after: both films in crank phase, the outlines over each other, what changed and whether it was predicted. */
export function BeforeAfter({ session }: { session: FitSession }) {
  const earlier = useEarlierVisit(session);
  const offers = useMemo(() => offersOf(session, earlier), [session, earlier]);
  const [chosen, setChosen] = useState<{ before: string | null; after: string | null }>({
    before: null,
    after: null,
  });
  const after = offers.find((o) => o.take.id === chosen.after) ?? offers.at(-1) ?? null;
  const alike = offers.filter((o) => o.take.id !== after?.take.id && o.take.view === after?.take.view);
  const before = alike.find((o) => o.take.id === chosen.before) ?? alike[0] ?? null;
  if (!after || !before)
    return (
      <NeedsFirst
        title="Nothing to compare yet"
        text="Film the changed bike from the same side and track it: an unmoved camera hands scale and marks on to the new take."
        to="../film"
        action="Film again"
      />
    );
  return (
    <Box sx={{ p: { xs: 2, md: 3 }, maxWidth: { xs: 1280, xl: 1640 }, mx: 'auto' }}>
      <Box sx={{ display: 'flex', gap: 2, mb: 2, flexWrap: 'wrap' }}>
        <TextField
          select
          size="small"
          label="Before"
          value={before.take.id}
          onChange={(e) => setChosen({ ...chosen, before: e.target.value })}
          sx={{ flex: 1, minWidth: 240 }}
        >
          {alike.map((o) => (
            <MenuItem key={o.take.id} value={o.take.id}>
              {o.name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          size="small"
          label="After"
          value={after.take.id}
          onChange={(e) => setChosen({ ...chosen, after: e.target.value })}
          sx={{ flex: 1, minWidth: 240 }}
        >
          {offers
            .filter((o) => o.take.id !== before.take.id)
            .map((o) => (
              <MenuItem key={o.take.id} value={o.take.id}>
                {o.name}
              </MenuItem>
            ))}
        </TextField>
      </Box>
      <Compared key={`${before.take.id} ${after.take.id}`} before={before} after={after} />
    </Box>
  );
}

function Compared({ before, after }: { before: Offer; after: Offer }) {
  const [a] = useTakeReadings(before.session, [before.take.id]);
  const [b] = useTakeReadings(after.session, [after.take.id]);
  if (!a || !b) return <Working words="Reading both films" />;
  return <SideBySide before={before} after={after} first={a.reading} second={b.reading} />;
}

function SideBySide({
  before,
  after,
  first,
  second,
}: {
  before: Offer;
  after: Offer;
  first: Reading;
  second: Reading;
}) {
  const { jointConvention } = useStudio();
  const pair = useMemo(() => pairByPhase(first, second), [first, second]);
  const [deg, setDeg] = useState(0);
  const [chosenAngle, setAngle] = useState<AngleKey>('kneeFlexionDeg');
  const both = useMemo(() => ANGLE_KEYS.filter((k) => first.angles[k] && second.angles[k]), [first, second]);
  const angle = both.includes(chosenAngle) ? chosenAngle : both[0];
  const theta = ((deg % 360) + 360) % 360;
  const bike = setupOf(before.session, before.take);
  const points = useMemo(() => resolveBike(bike).points, [bike]);
  const outlines = useMemo(() => [outlineAt(first, theta), outlineAt(second, theta)], [first, second, theta]);
  const sit = useMemo(() => {
    const [p, q] = [resolveBike(bike).points.sit, resolveBike(setupOf(after.session, after.take)).points.sit];
    return p && q ? { x: q.x - p.x, y: q.y - p.y } : { x: 0, y: 0 };
  }, [bike, after]);
  const drawn = useMemo(
    () => ({
      name: 'before',
      measured: (first.angles[angle]?.meanOnGrid ?? []).map((v) => quoted(angle, v, jointConvention)),
      sure: first.angles[angle]?.ciOnGrid,
      compared: [
        {
          name: 'after',
          values: (second.angles[angle]?.meanOnGrid ?? []).map((v) => quoted(angle, v, jointConvention)),
        },
      ],
    }),
    [first, second, angle, jointConvention],
  );
  // Figures change with the films only, not with the crank: many times a second they are handed on as they are.
  const table = useMemo(
    () => (
      <OutcomeTable
        before={{ session: before.session, take: before.take, reading: first }}
        after={{ session: after.session, take: after.take, reading: second }}
      />
    ),
    [before, after, first, second],
  );
  return (
    <>
      {pair ? (
        <PhasePlayer before={before.take} after={after.take} pair={pair} deg={deg} onDeg={setDeg} />
      ) : (
        <Typography>One of the films has no whole stroke to compare with the other.</Typography>
      )}
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 5fr) minmax(0, 6fr)' },
          gap: 4,
          mt: 3,
        }}
      >
        <Box>
          <Typography variant="h2">Outlines</Typography>
          <Typography variant="body2" color="textSecondary">
            Filled as before, dashed as after, crank {Math.round(theta)}° from the top.
          </Typography>
          <OutlineDrawing
            measured={outlines[0]}
            predicted={outlines[1]}
            points={points}
            crankMm={first.segmentsMm.crank}
            sitShiftMm={sit}
            trouble={null}
            label="The rider before, with the outline after over it, to scale"
          />
          <TextField
            select
            size="small"
            label="Curve"
            value={angle}
            onChange={(e) => setAngle(e.target.value as AngleKey)}
            sx={{ minWidth: 220, mt: 2 }}
          >
            {both.map((k) => (
              <MenuItem key={k} value={k}>
                {ANGLE_NAMES[k]}
              </MenuItem>
            ))}
          </TextField>
          <Typography variant="body2" color="textSecondary" sx={{ mt: 0.5 }}>
            Solid before, dashed after.
          </Typography>
          <ChartTools name={`${after.session.id}-before-after-${angle}`}>
            <StrokeChart
              label={`${ANGLE_NAMES[angle]}, before and after`}
              unit="°"
              {...drawn}
              cursorDeg={theta}
              onCursor={setDeg}
            />
          </ChartTools>
        </Box>
        {table}
      </Box>
    </>
  );
}
