import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useEffect, useMemo, useRef, useState } from 'react';
import { measureName } from '../../../core/protocol/convention.ts';
import { workFindings } from '../../../core/protocol/findings.ts';
import { type MeasureKey } from '../../../core/protocol/protocols.ts';
import { ANGLE_NAMES, type AngleKey } from '../../../core/kinematics/angles.ts';
import { filmPictures, isShown, type WantedPicture } from '../../pdf/filmPictures';
import type { FilmPicture, ReportChart } from '../../pdf/reportPaper';
import { isOut } from '../../../core/protocol/judge.ts';
import { quoted, type Convention } from '../../ui/words/angleText';
import { wholeDrawing } from '../../charts/ChartTools';
import { OnPaper } from './OnPaper';
import { StrokeChart } from '../../charts/StrokeChart';
import { BikeDrawing } from '../../ui/drawings/BikeDrawing';
import { resolveBike } from '../../../core/bike/resolve.ts';
import type { BikeSetup } from '../../../core/bike/setup.ts';
import { movesInRiderWords } from '../../../core/report/riderMoves.ts';
import { useStudio } from '../../session/useStudio';
import type { FilmedEnd, FilmedEnds } from './useFilmedEnds';

export interface Figures {
  pictures: FilmPicture[];
  charts: ReportChart[];
  /** The bike as it came and as it leaves, where it was moved. */
  bikes: ReportChart[];
}

/** As many measures are shown in pictures; each before and, where it was filmed again, after. */
const MOST_SHOWN = 2;

/** The measures that stand out most and can be shown on a picture. */
function shownMeasures(end: FilmedEnd): MeasureKey[] {
  const worked = workFindings(end.reading, end.measures).filter((f) => isShown(f.key) && f.frame >= 0);
  const out = worked
    .filter((f) => isOut(f.verdict))
    .sort((a, b) => Math.abs(b.off) / b.uncertainty - Math.abs(a.off) / a.uncertainty);
  return [...out, ...worked.filter((f) => f.key === 'kneeFlexionMinDeg' || f.key === 'backAngleDeg')]
    .map((f) => f.key)
    .filter((k, i, all) => all.indexOf(k) === i)
    .slice(0, MOST_SHOWN);
}

/** The pictures of those measures that a film has, with the figure that is written on each. */
const wantedOf = (
  { reading, measures }: FilmedEnd,
  shown: readonly MeasureKey[],
  convention: Convention,
): WantedPicture[] =>
  workFindings(reading, measures)
    .filter((f) => shown.includes(f.key) && f.frame >= 0)
    .map((f) => {
      const value = String(Math.round(quoted(f.key, f.value, convention))).replace('-', '−');
      return { frame: f.frame, key: f.key, text: `${value}${f.unit === '°' ? '°' : ' mm'}` };
    });

/** Charts and pictures for the report, drawn here and handed on; seen before they go on paper. */
export function ReportFigures({
  ends,
  asFound,
  leaves,
  onFigures,
}: {
  ends: FilmedEnds;
  asFound: BikeSetup;
  leaves: BikeSetup;
  onFigures: (f: Figures) => void;
}) {
  const { jointConvention } = useStudio();
  const { first, last } = ends;
  const charts = useRef<HTMLDivElement | null>(null);
  const [pictures, setPictures] = useState<FilmPicture[] | null>(first ? null : []);
  const shown = useMemo(() => (first ? shownMeasures(first) : []), [first]);
  const curves = useMemo((): AngleKey[] => {
    if (!first) return [];
    const also: AngleKey = shown.some((k) => k.startsWith('back')) ? 'backAngleDeg' : 'hipAngleDeg';
    return last ? ['kneeFlexionDeg', also] : ['kneeFlexionDeg'];
  }, [first, last, shown]);
  const bikes = useMemo(
    () =>
      movesInRiderWords(asFound, leaves, String).length === 0
        ? []
        : ([
            ['Your bike as it came', asFound],
            ['Your bike as it leaves', leaves],
          ] as const),
    [asFound, leaves],
  );
  useEffect(() => {
    if (!first) return undefined;
    const stop = new AbortController();
    const of = async (end: FilmedEnd | null, when: string) => {
      const wanted = end ? wantedOf(end, shown, jointConvention) : [];
      const made =
        end && (await filmPictures(end.take, end.tracks, { wanted, stop: stop.signal }).catch(() => null));
      return wanted.flatMap(({ key, text }, i) => {
        const dataUrl = made?.[i];
        const caption = `${measureName(key, jointConvention)}${when ? `, ${when}` : ''}: ${text}`;
        return dataUrl ? [{ key, dataUrl, caption }] : [];
      });
    };
    void (async () => {
      const both = (await Promise.all([of(first, last ? 'before' : ''), of(last, 'after')])).flat();
      // Measure by measure, before and after beside each other.
      if (!stop.signal.aborted) setPictures(shown.flatMap((key) => both.filter((p) => p.key === key)));
    })();
    return () => stop.abort();
  }, [first, last, shown, jointConvention]);
  useEffect(() => {
    if (pictures === null) return undefined;
    // The charts stand in the page by now; their drawing is taken as it is.
    const handle = requestAnimationFrame(() => {
      const drawn = (kind: 'chart' | 'bike'): ReportChart[] =>
        [...(charts.current?.querySelectorAll<HTMLElement>(`[data-${kind}]`) ?? [])].flatMap((box) => {
          const whole = wholeDrawing(box, '#1d282e', '#ffffff', 'Roboto');
          return whole
            ? [{ svg: new XMLSerializer().serializeToString(whole.svg), caption: box.dataset[kind] ?? '' }]
            : [];
        });
      onFigures({ pictures, charts: drawn('chart'), bikes: drawn('bike') });
    });
    return () => cancelAnimationFrame(handle);
  }, [pictures, curves, bikes, first, last, jointConvention, onFigures]);
  return (
    <Box component="section" aria-label="Figures in the report" sx={{ mt: 3 }}>
      <Typography variant="h2">Figures in the report</Typography>
      {pictures === null && <Typography role="status">Taking pictures out of the film…</Typography>}
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1, mt: 1 }}>
        {pictures?.map((p) => (
          <Box key={p.caption} component="figure" sx={{ m: 0 }}>
            <Box component="img" src={p.dataUrl} alt={p.caption} sx={{ width: '100%', display: 'block' }} />
            <Typography component="figcaption" variant="body2" color="textSecondary">
              {p.caption}
            </Typography>
          </Box>
        ))}
      </Box>
      {!first && (
        <Typography color="textSecondary">No film was read: the report has no pictures of it.</Typography>
      )}
      <OnPaper box={charts}>
        {bikes.map(([caption, bike]) => (
          <Box key={caption} data-bike={caption} sx={{ p: 1, mt: 1 }}>
            <BikeDrawing bike={bike} resolved={resolveBike(bike)} plain />
          </Box>
        ))}
        {first &&
          curves.map((key) => (
            <Box
              key={key}
              data-chart={`${ANGLE_NAMES[key]} over one turn of the crank${last ? ': solid as you came, dashed after the changes' : ''}.`}
              sx={{ p: 1, mt: 1 }}
            >
              <StrokeChart
                label={ANGLE_NAMES[key]}
                unit="°"
                name="before"
                measured={(first.reading.angles[key]?.meanOnGrid ?? []).map((v) =>
                  quoted(key, v, jointConvention),
                )}
                compared={
                  last
                    ? [
                        {
                          name: 'after',
                          values: (last.reading.angles[key]?.meanOnGrid ?? []).map((v) =>
                            quoted(key, v, jointConvention),
                          ),
                        },
                      ]
                    : []
                }
                cursorDeg={null}
                height={210}
              />
            </Box>
          ))}
      </OnPaper>
    </Box>
  );
}
