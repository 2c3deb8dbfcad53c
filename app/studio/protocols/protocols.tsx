import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ListItemButton from '@mui/material/ListItemButton';
import ListItemText from '@mui/material/ListItemText';
import Snackbar from '@mui/material/Snackbar';
import Typography from '@mui/material/Typography';
import { nanoid } from 'nanoid';
import { useRef, useState } from 'react';
import { data, Link, useNavigate } from 'react-router';
import { writeProtocols } from '../../../core/formats/protocolsJson.ts';
import { PROTOCOLS, type Protocol } from '../../../core/protocol/protocols.ts';
import { mergeProtocols, newestOf, nextVersion } from '../../../core/protocol/shelf.ts';
import { download } from '../../ui/download';
import { ProtocolTable } from './ProtocolTable';
import { answering } from '../../session/answering';
import { useSend } from '../../session/useSend';
import { RouteTrouble } from '../../ui/RouteTrouble';
import { TopBar } from '../../ui/TopBar';
import { CATALOGUE } from '../../demo/catalogue';
import { seedDemo } from '../../storage/demo';
import { loadShelf, saveShelf } from '../../storage/protocols';
import type { Route } from './+types/protocols';
import { readFile } from '../../jobs/files';
import { FileField } from '../../ui/fields/FileField';

export const meta: Route.MetaFunction = () => [{ title: 'Protocols · Deep Angle' }];

export async function clientLoader(): Promise<{ own: Protocol[] }> {
  await seedDemo(CATALOGUE);
  const shelf = await loadShelf();
  if (!shelf.ok) throw data(shelf.message, { status: 409 });
  return { own: shelf.value.protocols };
}

/** A list as it was left, and as it was seen before: what another tab did meanwhile stands. */
interface Sent {
  to: Protocol[];
  from: Protocol[];
}

export const clientAction = answering(async ({ request }: Route.ClientActionArgs) => {
  const { to, from } = (await request.json()) as Sent;
  const saved = await saveShelf(to, from);
  return saved.ok ? null : { message: saved.message };
});

const fileNameOf = ({ name }: Protocol): string =>
  `${name.replace(/[^A-Za-z0-9]+/g, '-').toLowerCase()}.protocol.json`;

function ProtocolLink({ protocol: p, open }: { protocol: Protocol; open: boolean }) {
  return (
    <ListItemButton
      component={Link}
      to={`/protocols/${p.id}`}
      selected={open}
      aria-current={open ? 'page' : undefined}
      sx={{ border: 1, borderColor: 'divider', mt: '-1px', minHeight: 44 }}
    >
      <ListItemText
        primary={p.name}
        secondary={`version ${p.revision}, ${p.position || 'any hold'}`}
        slotProps={{ primary: { noWrap: true } }}
      />
    </ListItemButton>
  );
}

/** The studio's protocols: the five to start from, and what it made of them; every version kept. */
export default function Protocols({ loaderData, params }: Route.ComponentProps) {
  const { fetcher, send } = useSend<Sent>();
  const navigate = useNavigate();
  const input = useRef<HTMLInputElement | null>(null);
  const [message, setMessage] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [before, setBefore] = useState<Protocol[] | null>(null);
  // What was sent stands at once; the store's answer follows.
  const own = (fetcher.json as unknown as Sent | undefined)?.to ?? loaderData.own;
  const all = [...PROTOCOLS, ...own];
  const list = newestOf(all);
  const shown = list.find((p) => p.id === params.protocolId) ?? list[0];
  const store = (next: Protocol[], words: string): void => {
    setBefore(own);
    setMessage(words);
    send({ to: next, from: own });
  };
  const keep = (changed: Protocol): void => {
    const next = nextVersion(changed, all, new Date().toISOString());
    store(
      [...own, next],
      `Kept as version ${next.revision}. Visits go on with the version they were judged by.`,
    );
  };
  const copy = (): void => {
    const made: Protocol = {
      ...shown,
      id: nanoid(),
      revision: 1,
      name: `${shown.name}, copy`.slice(0, 120),
      date: new Date().toISOString(),
      source: `Copied from “${shown.name}”, version ${shown.revision}. ${shown.source}`.slice(0, 2000),
    };
    store([...own, made], `Copied as “${made.name}”.`);
    void navigate(`/protocols/${made.id}`);
  };
  const remove = (): void => {
    const started = PROTOCOLS.some((p) => p.id === shown.id);
    store(
      own.filter((p) => p.id !== shown.id),
      started
        ? `“${shown.name}” is reset to the original. Visits keep the version they were judged by.`
        : `“${shown.name}” removed. Visits keep the version they were judged by.`,
    );
    if (!started) void navigate('/protocols');
  };
  const readIn = async (file: File): Promise<void> => {
    const read = await readFile('protocols', file);
    if (!read.ok) {
      setTrouble(`${file.name}: ${read.message}`);
      return;
    }
    setTrouble(null);
    const merged = mergeProtocols(read.protocols, own, PROTOCOLS);
    if (merged.added.length === 0) {
      setMessage(`Nothing new in ${file.name}: all ${merged.known.length} are here already.`);
      setBefore(null);
      return;
    }
    store(
      merged.protocols,
      `Imported: ${merged.added.map((p) => `${p.name}, version ${p.revision}`).join('; ')}.`,
    );
    void navigate(`/protocols/${merged.added[0].id}`);
  };
  const changed = own.some((p) => p.id === shown.id);
  return (
    <Box sx={{ minHeight: '100vh', display: 'flex', flexDirection: 'column' }}>
      <TopBar>
        <Typography color="textSecondary">Protocols</Typography>
      </TopBar>
      <Box
        component="main"
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', md: '260px minmax(0, 1fr)' },
          gap: 3,
          p: { xs: 2, md: 3 },
        }}
      >
        <Box component="nav" aria-label="Protocols">
          <Typography variant="h1" gutterBottom>
            Protocols
          </Typography>
          {list.map((p) => (
            <ProtocolLink key={p.id} protocol={p} open={p.id === shown.id} />
          ))}
          <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, mt: 2 }}>
            <Button variant="outlined" onClick={copy}>
              Copy this one
            </Button>
            {changed && (
              <Button variant="outlined" onClick={remove}>
                {PROTOCOLS.some((p) => p.id === shown.id) ? 'Reset to the original' : 'Remove'}
              </Button>
            )}
            <Button onClick={() => download(fileNameOf(shown), writeProtocols([shown]), 'application/json')}>
              Save (JSON)
            </Button>
            <Button onClick={() => download('protocols.json', writeProtocols(all), 'application/json')}>
              Save all versions
            </Button>
            <Button onClick={() => input.current?.click()}>Import (JSON)…</Button>
          </Box>
          <FileField
            ref={input}
            accept=".json,application/json"
            testId="protocols-file"
            onFile={(file) => void readIn(file)}
          />
        </Box>
        <Box sx={{ minWidth: 0 }}>
          {(trouble ?? fetcher.data?.message) && (
            <Alert severity="error" sx={{ mb: 2 }}>
              {trouble ?? fetcher.data?.message}
            </Alert>
          )}
          <ProtocolTable key={`${shown.id}@${shown.revision}`} protocol={shown} all={all} onKeep={keep} />
        </Box>
      </Box>
      <Snackbar
        open={message !== null}
        autoHideDuration={9000}
        onClose={(_, why) => why !== 'clickaway' && setMessage(null)}
        message={message}
        action={
          before && (
            <Button
              size="small"
              color="inherit"
              onClick={() => {
                store(before, 'Taken back.');
                setBefore(null);
              }}
            >
              Undo
            </Button>
          )
        }
      />
    </Box>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return <RouteTrouble error={error} bare />;
}
