import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import dayjs from 'dayjs';
import { useRef, useState } from 'react';
import { useRevalidator } from 'react-router';
import type { Duplicates } from '../../../core/formats/planImport.ts';
import type { Inspection } from '../../../core/formats/inspectBundle.ts';
import { Choice } from '../../ui/fields/Choice';
import { Sheet } from '../../ui/Desk';
import { download } from '../../ui/download';
import { many } from '../../ui/words/many';
import { bytesText } from '../../ui/words/bytesText';
import { RoomTaken, type FilmLine } from './RoomTaken';
import { RouteTrouble } from '../../ui/RouteTrouble';
import { TopBar } from '../../ui/TopBar';
import { CATALOGUE } from '../../demo/catalogue';
import { bringBack, lookInto, saveBundle } from '../../jobs/backup';
import { lastBackupIso } from '../../storage/lastBackup';
import { whyNot } from '../../storage/saveState';
import { filmsHeld } from '../../storage/films';
import { studioIndex } from '../../storage/studioIndex';
import { seedDemo } from '../../storage/demo';
import type { Route } from './+types/backup';
import { FileField } from '../../ui/fields/FileField';
import { momentText } from '../../ui/words/dates';

export const meta: Route.MetaFunction = () => [{ title: 'Backup · Deep Angle' }];

/** What of the browser's room is taken by what, bytes. */
interface Room {
  usedBytes: number;
  /** By the application itself; only some browsers know. */
  ownBytes: number | null;
  filmBytes: number;
  quotaBytes: number | null;
}

/** What is stored here and what it is made of, so that it agrees with the list of films below. */
const roomText = ({ usedBytes, ownBytes, filmBytes, quotaBytes }: Room): string => {
  const rest = bytesText(Math.max(0, usedBytes - filmBytes - (ownBytes ?? 0)));
  return [
    filmBytes > 0 && `Films take ${bytesText(filmBytes)}.`,
    ownBytes === null
      ? `Everything ${filmBytes > 0 ? 'else' : 'stored'} here, the application itself included: ${rest}.`
      : `Records, marks and tracks: ${rest}. The application itself, kept for use without a network: ${bytesText(ownBytes)}.`,
    quotaBytes !== null && `The browser allows ${bytesText(quotaBytes)}.`,
  ]
    .filter(Boolean)
    .join(' ');
};

export async function clientLoader() {
  await seedDemo(CATALOGUE);
  const estimate = await navigator.storage?.estimate?.();
  const { index } = await studioIndex();
  const names = new Map(index.riders.map((r) => [r.id, r.name]));
  const films = (await filmsHeld(index)).map(({ visit, take, bytes }): FilmLine => ({
    sessionId: visit.id,
    takeId: take.id,
    riderName: names.get(visit.riderId) ?? 'A rider',
    startedIso: visit.startedIso,
    clipName: take.clipName,
    bytes,
  }));
  return {
    films,
    last: await lastBackupIso(),
    usedBytes: estimate?.usage ?? null,
    // Only some browsers say what of it the application itself takes, kept for use without a network.
    ownBytes: (estimate as { usageDetails?: { caches?: number } } | undefined)?.usageDetails?.caches ?? null,
    quotaBytes: estimate?.quota ?? null,
    lasting: (await navigator.storage?.persisted?.()) ?? false,
  };
}

const DUPLICATES: readonly (readonly [Duplicates, string])[] = [
  ['add', 'add what is missing'],
  ['over', 'replace what is here'],
  ['both', 'have both'],
];

export default function Backup({ loaderData }: Route.ComponentProps) {
  const { films, last, usedBytes, ownBytes, quotaBytes, lasting } = loaderData;
  const filmBytes = films.reduce((sum, f) => sum + f.bytes, 0);
  const { revalidate } = useRevalidator();
  const [packing, setPacking] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const save = async (): Promise<void> => {
    setTrouble(null);
    setPacking('Packing…');
    try {
      const blob = await saveBundle(null, (k, of) =>
        setPacking(`Packing film ${Math.min(k + 1, of)} of ${of}…`),
      );
      download(`deep-angle-studio-${dayjs().format('YYYY-MM-DD')}.zip`, blob);
      await revalidate();
    } catch (error) {
      setTrouble(`The backup could not be made: ${whyNot(error)}`);
    } finally {
      setPacking(null);
    }
  };
  return (
    <Box sx={{ minHeight: '100vh' }}>
      <TopBar>
        <Typography component="h1" color="textSecondary">
          Backup
        </Typography>
      </TopBar>
      <Box
        component="main"
        sx={{ maxWidth: 820, mx: 'auto', p: { xs: 2, md: 4 }, '& > section + section': { mt: 4 } }}
      >
        <Sheet title="Save the studio" note="one zip of open files, readable without this application">
          {trouble && <Alert severity="error">{trouble}</Alert>}
          <Typography sx={{ mb: 1.5 }}>
            {last ? `Last saved on ${momentText(last)}.` : 'The studio was never saved as a file.'}
            {usedBytes !== null && ` ${roomText({ usedBytes, ownBytes, filmBytes, quotaBytes })}`}
          </Typography>
          <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
            <Button variant="contained" disabled={packing !== null} onClick={() => void save()}>
              Save everything
            </Button>
            {packing && <Typography role="status">{packing}</Typography>}
            {!lasting && (
              <Button
                onClick={() => {
                  void navigator.storage?.persist?.().then(() => revalidate());
                }}
              >
                Make storage permanent
              </Button>
            )}
          </Box>
          <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
            {lasting
              ? 'The browser has promised to keep what is stored here.'
              : 'The browser may clear what is stored here when the disk runs full, until it has promised to keep it.'}
          </Typography>
        </Sheet>
        <RoomTaken films={films} onChange={() => void revalidate()} />
        <BringBack onDone={() => void revalidate()} />
      </Box>
    </Box>
  );
}

function BringBack({ onDone }: { onDone: () => void }) {
  const input = useRef<HTMLInputElement | null>(null);
  const [state, setState] = useState<
    | { at: 'idle' | 'looking' | 'storing' }
    | { at: 'seen'; backup: Blob; inspection: Inspection; here: string[] }
    | { at: 'done'; text: string }
    | { at: 'failed'; text: string }
  >({ at: 'idle' });
  const [duplicates, setDuplicates] = useState<Duplicates>('add');
  const [studioToo, setStudioToo] = useState(false);
  const run = (work: () => Promise<void>): void =>
    void work().catch((error: unknown) => setState({ at: 'failed', text: whyNot(error) }));
  const look = (file: File): void =>
    run(async () => {
      setState({ at: 'looking' });
      setState({ at: 'seen', ...(await lookInto(file)) });
    });
  const store = (backup: Blob, inspection: Inspection, here: string[]): void =>
    run(async () => {
      setState({ at: 'storing' });
      const n = await bringBack(backup, inspection, { here, duplicates, studioToo });
      setState({
        at: 'done',
        text: `${many(n.riders, 'rider')}, ${many(n.sessions, 'visit')} and ${many(n.films, 'film')} restored.${n.faults.length ? ` Left out as damaged: ${n.faults.map((f) => f.name).join(', ')}.` : ''}`,
      });
      onDone();
    });
  return (
    <Sheet title="Restore a backup" note="checked first; nothing is stored until you confirm">
      <Button
        variant="outlined"
        disabled={state.at === 'looking' || state.at === 'storing'}
        onClick={() => input.current?.click()}
      >
        Choose a backup or a visit…
      </Button>
      <FileField
        ref={input}
        accept=".zip,application/zip,.json,application/json"
        testId="backup-file"
        onFile={(file) => look(file)}
      />
      <Box sx={{ mt: 2 }}>
        {state.at === 'looking' && <Typography role="status">Checking it…</Typography>}
        {state.at === 'storing' && <Typography role="status">Storing…</Typography>}
        {state.at === 'done' && <Alert severity="success">{state.text}</Alert>}
        {state.at === 'failed' && (
          <Alert severity="error" variant="outlined">
            {state.text}
          </Alert>
        )}
        {state.at === 'seen' && (
          <Box data-testid="backup-seen">
            <Typography>
              {many(state.inspection.riders.length, 'rider')} and{' '}
              {many(state.inspection.sessions.length, 'visit')} can be restored.
            </Typography>
            {state.inspection.faults.length > 0 && (
              <Alert severity="warning" variant="outlined" sx={{ my: 1 }}>
                Left out: {many(state.inspection.faults.length, 'file')}.
                <Box component="ul" sx={{ m: 0, pl: 2.5, maxHeight: 220, overflowY: 'auto' }}>
                  {state.inspection.faults.slice(0, 200).map((f, i) => (
                    <li key={`${f.name}-${i}`}>
                      <strong style={{ overflowWrap: 'anywhere' }}>{f.name}</strong>: {f.why}
                    </li>
                  ))}
                </Box>
              </Alert>
            )}
            {state.here.length > 0 && (
              <Box sx={{ my: 2 }}>
                <Choice
                  label={`${many(state.here.length, 'rider is', 'riders are')} here already`}
                  options={DUPLICATES}
                  value={duplicates}
                  onChange={(v) => v && setDuplicates(v)}
                />
              </Box>
            )}
            {(state.inspection.studio ?? state.inspection.parts) && (
              <FormControlLabel
                sx={{ display: 'flex', mb: 1 }}
                control={<Checkbox checked={studioToo} onChange={(e) => setStudioToo(e.target.checked)} />}
                label="The studio’s name and settings too, in place of what is here; its protocols and parts are added"
              />
            )}
            {(state.inspection.riders.length > 0 || studioToo) && (
              <Button variant="contained" onClick={() => store(state.backup, state.inspection, state.here)}>
                Bring back
              </Button>
            )}
          </Box>
        )}
      </Box>
    </Sheet>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return <RouteTrouble error={error} bare />;
}
