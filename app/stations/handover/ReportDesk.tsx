import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { Link as RouterLink } from 'react-router';
import { useCallback, useMemo, useRef, useState } from 'react';
import { reportTexts } from '../../../core/report/report.ts';
import { RED_FLAGS } from '../../../core/intake/intake.ts';
import { asFindings } from '../../../core/protocol/findings.ts';
import { adviceFor } from '../../../core/plan/cautions.ts';
import { protocolOf } from '../../../core/visit/visitCase.ts';
import { REPORT_PARTS, type ReportPartKey } from '../../../core/records/handOver.ts';
import { lastSetup } from '../../../core/visit/setups.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { lengthWithUnit } from '../../../core/units/length.ts';
import { reportPaper } from '../../pdf/reportPaper';
import { useSession } from '../session';
import { fileName } from './PaperBar';
import { PaperDesk } from './PaperDesk';
import { ReportFigures, type Figures } from './ReportFigures';
import { useEarlierVisit } from '../../session/useEarlierVisit';
import type { FilmedEnds } from './useFilmedEnds';
import { usePaper } from './usePaper';
import { useSet } from '../../session/useSet';
import { useSignature } from '../../session/useStudio';
import { useTyped } from '../../session/useTyped';
import { dayText } from '../../ui/words/dates';
import { Working } from '../../ui/Working';

/** The rider's report: proposed words to edit or leave out, figures from the film, and the paper as it will be saved. */
export function ReportDesk({ session, ends }: { session: FitSession; ends: FilmedEnds | null }) {
  if (!ends) return <Working words="Reading the films" sx={{ m: 4 }} />;
  return <Desk session={session} ends={ends} />;
}

function Desk({ session, ends }: { session: FitSession; ends: FilmedEnds }) {
  const { rider } = useSession();
  const studio = useSignature(session.riderId);
  const { set } = useSet();
  const earlier = useEarlierVisit(session);
  const { handOver, intake } = session;
  const leaves = lastSetup(session);
  const [figures, setFigures] = useState<Figures | null>(null);
  const holder = useRef<Figures | null>(null);
  const onFigures = useCallback((f: Figures): void => {
    holder.current = f;
    setFigures(f);
  }, []);
  const proposed = useMemo(() => {
    const first = ends.first ? asFindings(ends.first.measures) : (session.plan?.findings ?? []);
    const last = ends.last ? asFindings(ends.last.measures) : [];
    // At a follow-up with one film, the last visit's figures are the ones before.
    const before = ends.last || !earlier?.handOver.findings.length ? first : earlier.handOver.findings;
    return reportTexts({
      riderName: rider?.name ?? 'Rider',
      intake,
      before,
      after: ends.last ? last : before === first ? [] : first,
      asFound: session.asFound,
      leaves,
      changes: session.changes,
      followUps: session.followUps,
      advice: adviceFor({
        intake,
        body: session.body,
        bike: leaves,
        measures: ends.last?.measures ?? ends.first?.measures ?? [],
      }).map((a) => a.toRider),
      redFlags: intake.redFlags.map((f) => RED_FLAGS.find((r) => r.key === f.key)!.text),
      halfSteps: protocolOf(session).halfSteps,
      studio,
      day: dayText,
      length: (mm) => lengthWithUnit(mm, studio.lengthUnit),
    });
  }, [session, ends, earlier, rider, intake, leaves, studio]);
  const compose = useMemo(() => {
    if (!figures) return null;
    const texts = Object.fromEntries(
      REPORT_PARTS.map(({ key }) => [key, handOver.texts[key] ?? proposed[key]]),
    ) as Record<ReportPartKey, string>;
    return () =>
      reportPaper({
        paper: handOver.paper,
        riderName: rider?.name ?? 'Rider',
        day: dayText(session.startedIso),
        studio,
        bikeName: leaves.name,
        texts,
        leftOut: handOver.leftOut,
        ...figures,
      });
  }, [
    figures,
    handOver.texts,
    handOver.paper,
    handOver.leftOut,
    proposed,
    rider,
    session.startedIso,
    studio,
    leaves.name,
  ]);
  const paper = usePaper(compose);
  return (
    <PaperDesk
      paper={handOver.paper}
      state={paper}
      name={`${fileName(rider?.name ?? 'rider', 'report', session.startedIso.slice(0, 10))}.pdf`}
      label="The rider’s report"
    >
      <Typography color="textSecondary" sx={{ mb: 1 }}>
        The text is proposed from the visit. Edit it, or leave a part out; the preview follows.
      </Typography>
      {!studio.name && !studio.fitter && (
        <Typography color="textSecondary" sx={{ mb: 1 }}>
          Not signed yet: enter your studio’s name and yours under{' '}
          <Link component={RouterLink} to="/settings">
            Settings
          </Link>
          .
        </Typography>
      )}
      {REPORT_PARTS.map(({ key, title }) => (
        <PartText
          key={key}
          title={title}
          proposed={proposed[key]}
          own={handOver.texts[key]}
          out={handOver.leftOut.includes(key)}
          onText={(text) => set(`handOver.texts.${key}`, text)}
          onOut={(out) =>
            set(
              'handOver.leftOut',
              out ? [...handOver.leftOut, key] : handOver.leftOut.filter((k) => k !== key),
            )
          }
        />
      ))}
      <ReportFigures ends={ends} asFound={session.asFound} leaves={leaves} onFigures={onFigures} />
    </PaperDesk>
  );
}

/** One part of the report: its words, whether it is in, and the way back to the proposed ones. */
function PartText({
  title,
  proposed,
  own,
  out,
  onText,
  onOut,
}: {
  title: string;
  proposed: string;
  own: string | undefined;
  out: boolean;
  onText: (text: string | null) => void;
  onOut: (out: boolean) => void;
}) {
  const { text, type, leave, drop } = useTyped<string>(title, {
    value: own ?? proposed,
    read: (typed) => ({ ok: true, value: typed }),
    onChange: (words) => onText(words === proposed ? null : words),
  });
  return (
    <Box component="section" aria-label={title} sx={{ mb: 1.5 }}>
      <Box sx={{ display: 'flex', alignItems: 'center' }}>
        <Typography variant="h2" sx={{ flex: 1 }}>
          {title}
        </Typography>
        {own !== undefined && (
          <Button size="small" onClick={() => onText(null)}>
            Reset to the proposed text
          </Button>
        )}
        <FormControlLabel
          control={<Checkbox size="small" checked={!out} onChange={(e) => onOut(!e.target.checked)} />}
          label="in the report"
          sx={{ mr: 0 }}
        />
      </Box>
      {!out && (
        <TextField
          multiline
          fullWidth
          minRows={2}
          maxRows={12}
          size="small"
          value={text ?? own ?? proposed}
          onChange={(e) => type(e.target.value)}
          onBlur={leave}
          onKeyDown={(e) => e.key === 'Escape' && drop()}
          slotProps={{ htmlInput: { maxLength: 8000, 'aria-label': `${title}: the words` } }}
        />
      )}
    </Box>
  );
}
