import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Typography from '@mui/material/Typography';
import { trendOf } from '../../../core/kinematics/live/measuring.ts';
import { LIVE_KEYS, type LiveKey } from '../../../core/kinematics/live/turns.ts';
import {
  measureName,
  quoted,
  quotedBand,
  quotedVerdict,
  quotedWay,
  verdictWords,
} from '../../../core/protocol/convention.ts';
import type { MeasureReading } from '../../../core/protocol/measures.ts';
import { BandGauge } from '../../charts/BandGauge';
import type { LiveNow } from '../../jobs/live';
import { useStudio } from '../../session/useStudio';
import { GlanceFigure } from '../GlanceFigure';
import { LiveStrip } from './LiveStrip';

const isLive = (key: string): key is LiveKey => (LIVE_KEYS as readonly string[]).includes(key);

/** A figure that is known no better is none: a sticker was taken for another on some of the turns. */
const MOST_DOUBT_DEG = 15;

/** The figures that the studio glances at, as far as they are read turn by turn. */
function chosen(measures: readonly MeasureReading[], glance: readonly string[]): MeasureReading[] {
  const all = measures.filter((m) => isLive(m.key) && m.uncertainty < MOST_DOUBT_DEG);
  const wanted = all.filter((m) => glance.includes(m.key));
  return (wanted.length >= 3 ? wanted : all).slice(0, 4);
}

const TREND_WORDS = { up: '↗ rising', down: '↘ falling', steady: 'steady' };
const TURNED = { up: 'down', down: 'up', steady: 'steady' } as const;

/** The figures of the last ten turns; a press draws one’s way. */
export function LiveFigures({
  live,
  picked,
  onPick,
}: {
  live: LiveNow;
  picked: LiveKey | null;
  onPick: (key: LiveKey) => void;
}) {
  const { glance, jointConvention } = useStudio();
  const shown = chosen(live.measures, glance);
  const onStrip = shownOnStrip(shown, picked);
  if (shown.length === 0)
    return (
      <Typography color="textSecondary" sx={{ minHeight: 120 }}>
        The figures come with the first whole turns.
      </Typography>
    );
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: 'repeat(auto-fit, minmax(150px, 1fr))',
        columnGap: 2,
        rowGap: 1.5,
      }}
    >
      {shown.map((m) => {
        const trend = trendOf(live.turns, m.key as LiveKey);
        return (
          <ButtonBase
            key={m.key}
            data-testid={`live-${m.key}`}
            aria-pressed={m.key === onStrip?.key}
            onClick={() => onPick(m.key as LiveKey)}
            sx={{
              display: 'grid',
              gridTemplateRows: '2.6em auto auto auto',
              justifyItems: 'start',
              justifyContent: 'start',
              alignItems: 'end',
              textAlign: 'left',
              borderBottom: 2,
              borderColor: m.key === onStrip?.key ? 'primary.main' : 'transparent',
              pb: 0.5,
            }}
          >
            <GlanceFigure m={m} convention={jointConvention} size="clamp(3.4rem, 5.4vw, 6.5rem)" />
            <BandGauge
              value={quoted(m.key, m.value, jointConvention)}
              uncertainty={m.uncertainty}
              band={quotedBand(m.key, m.band, jointConvention)}
              verdict={quotedVerdict(m.key, m.verdict, jointConvention)}
            />
            <Typography component="span" variant="body2" sx={{ minHeight: '2.9em' }}>
              {verdictWords(m.key, m.verdict, jointConvention)}
              <br />
              {TREND_WORDS[quotedWay(m.key, jointConvention) > 0 ? trend : TURNED[trend]]}
            </Typography>
          </ButtonBase>
        );
      })}
    </Box>
  );
}

/** The figure whose way is drawn: the one that was picked, else the first. */
const shownOnStrip = (shown: readonly MeasureReading[], picked: LiveKey | null): MeasureReading | undefined =>
  shown.find((m) => m.key === picked) ?? shown[0];

/** The way of the picked figure, turn by turn. */
export function LiveWay({ live, picked }: { live: LiveNow; picked: LiveKey | null }) {
  const { glance, jointConvention } = useStudio();
  const m = shownOnStrip(chosen(live.measures, glance), picked);
  if (!m) return null;
  const name = measureName(m.key, jointConvention);
  return (
    <Box sx={{ mt: 1 }}>
      <Typography variant="body2" color="textSecondary">
        {name}, turn by turn
      </Typography>
      <LiveStrip
        name={name}
        of={m.key as LiveKey}
        band={m.band}
        convention={jointConvention}
        turns={live.turns}
        marks={live.marks}
        nowS={Math.max(live.nowS, live.turns.at(-1)?.endS ?? 0)}
      />
    </Box>
  );
}
