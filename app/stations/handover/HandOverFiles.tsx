import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useRef, useState } from 'react';
import { writeAnglesCsv } from '../../../core/formats/angles.ts';
import { writeC3d } from '../../../core/formats/c3d.ts';
import { planLogJsonSchema, restoredFrom, writePlanLog } from '../../../core/formats/planLog.ts';
import { markersOf } from '../../../core/formats/trackMarkers.ts';
import { writeTracksCsv } from '../../../core/formats/tracksCsv.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { useSession } from '../session';
import { saveBundle } from '../../jobs/backup';
import { Sheet } from '../../ui/Desk';
import { download } from '../../ui/download';
import { fileName } from './PaperBar';
import { useEdit } from '../../session/useEdit';
import { whyNot } from '../../storage/saveState';
import { readFile } from '../../jobs/files';
import { useTracksIn } from '../../jobs/useTracksIn';
import { sideTake, useReading } from '../../jobs/useTakeResults';
import { FileField } from '../../ui/fields/FileField';

/** Everything of the visit as files that open elsewhere; what is written can be read in again. */
export function HandOverFiles({ session }: { session: FitSession }) {
  const { rider } = useSession();
  const { edit, refused } = useEdit();
  const tracksIn = useTracksIn(session);
  const state = useReading(session);
  const take = sideTake(session);
  const read =
    state.status === 'read' && state.result.ok ? { reading: state.result, tracks: state.tracks } : null;
  const [message, setMessage] = useState<{ ok: boolean; text: string } | null>(null);
  const [packing, setPacking] = useState(false);
  const planFile = useRef<HTMLInputElement | null>(null);
  const tracksFile = useRef<HTMLInputElement | null>(null);
  const stem = fileName(rider?.name ?? 'rider', session.startedIso.slice(0, 10));
  const pack = async (): Promise<void> => {
    setPacking(true);
    try {
      download(`${stem}.zip`, await saveBundle(session.riderId, () => undefined, session.id));
    } catch (error) {
      setMessage({ ok: false, text: whyNot(error) });
    } finally {
      setPacking(false);
    }
  };
  const readTracksIn = async (file: File): Promise<void> => {
    if (take && read) setMessage(await tracksIn(file, take, read));
  };
  const readPlan = async (file: File): Promise<void> => {
    const parsed = await readFile('planLog', file);
    if (!parsed.ok) {
      setMessage({ ok: false, text: `${file.name}: ${parsed.message}` });
      return;
    }
    const kept = await edit({ kind: 'restored', part: restoredFrom(parsed.log) });
    if (!kept.ok) {
      setMessage({ ok: false, text: `${file.name}: ${kept.message}` });
      return;
    }
    setMessage({
      ok: true,
      text: `${parsed.log.plans.length} plans and ${parsed.log.changes.length} changes imported from ${file.name}; Undo takes them back.`,
    });
  };
  return (
    <Box sx={{ p: { xs: 2, md: 3 }, maxWidth: 860, mx: 'auto', '& section + section': { mt: 3 } }}>
      {message && (
        <Alert
          severity={message.ok ? 'success' : 'error'}
          variant="outlined"
          onClose={() => setMessage(null)}
          sx={{ mb: 2 }}
        >
          {message.text}
        </Alert>
      )}
      {refused && <Alert severity="error">{refused}</Alert>}
      <Sheet
        title="The visit"
        note="records, tracks and films in one zip of open files; comes back on Backup"
      >
        <Button variant="contained" disabled={packing} onClick={() => void pack()}>
          {packing ? 'Packing…' : 'Visit as zip'}
        </Button>
      </Sheet>
      <Sheet title="Plan and log" note="JSON, with its published schema">
        <Line text="What was found, planned, moved and said, with the bike as found, as it stands and as handed over.">
          <Button
            variant="outlined"
            onClick={() => download(`${stem}-plan-log.json`, writePlanLog(session), 'application/json')}
          >
            Plan and log (JSON)
          </Button>
          <Button
            onClick={() =>
              download(
                'deep-angle-plan-log.schema.json',
                `${JSON.stringify(planLogJsonSchema(), null, 2)}\n`,
                'application/schema+json',
              )
            }
          >
            Its JSON Schema
          </Button>
          <Button onClick={() => planFile.current?.click()}>Import one…</Button>
        </Line>
      </Sheet>
      <Sheet title="Measurements" note={take ? take.clipName : 'no film yet'}>
        {read && take ? (
          <>
            <Line text="Joints on every frame, in pixels.">
              <Button
                variant="outlined"
                onClick={() => download(`${stem}-tracks.csv`, writeTracksCsv(read.tracks), 'text/csv')}
              >
                Tracks (CSV)
              </Button>
            </Line>
            <Line text="Angles of every counted stroke against the crank; a table like it can be compared on Read.">
              <Button
                variant="outlined"
                onClick={() => download(`${stem}-angles.csv`, writeAnglesCsv(read.reading), 'text/csv')}
              >
                Angles (CSV)
              </Button>
            </Line>
            <Line text="Markers in millimetres about the bottom bracket, an event at each top dead centre: for motion-capture programs.">
              <Button
                variant="outlined"
                onClick={() =>
                  download(
                    `${stem}.c3d`,
                    new Blob([writeC3d(markersOf(read.tracks, read.reading)) as Uint8Array<ArrayBuffer>]),
                  )
                }
              >
                Markers (C3D)
              </Button>
              <Button onClick={() => tracksFile.current?.click()}>Import tracks or C3D…</Button>
            </Line>
            <Typography variant="body2" color="textSecondary">
              Charts go out as SVG and PNG under each chart on Read and on Trial.
            </Typography>
          </>
        ) : (
          <Typography color="textSecondary">
            Film, mark and track first: then tracks, angles and markers appear here.
          </Typography>
        )}
      </Sheet>
      <FileField
        ref={planFile}
        accept=".json,application/json"
        testId="plan-file"
        onFile={(file) => void readPlan(file)}
      />
      <FileField
        ref={tracksFile}
        accept=".c3d,.csv,text/csv"
        testId="markers-file"
        onFile={(file) => void readTracksIn(file)}
      />
    </Box>
  );
}

const Line = ({ text, children }: { text: string; children: React.ReactNode }) => (
  <Box sx={{ mb: 1.5 }}>
    <Typography sx={{ mb: 0.5 }}>{text}</Typography>
    <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>{children}</Box>
  </Box>
);
