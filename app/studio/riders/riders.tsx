import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import dayjs from 'dayjs';
import { nanoid } from 'nanoid';
import { Suspense, useDeferredValue, useEffect, useMemo, useState } from 'react';
import { redirect, useSearchParams, type ShouldRevalidateFunctionArgs } from 'react-router';
import { RECORD_VERSIONS } from '../../../core/records/migrations.ts';
import { riderName } from '../../../core/records/schemas.ts';
import {
  byRider,
  findRiders,
  inOrder,
  rowsOf,
  summaryOfVisit,
  type RiderOrder,
  type RiderRow as Row,
} from '../../../core/visit/summaries.ts';
import { studioDesk, type StudioDesk } from '../../../core/visit/desk.ts';
import type { Rider } from '../../../core/records/types.ts';
import { ListTools, ORDERS } from './ListTools';
import { fetchDialogs, NewRider } from './dialogs';
import { RIDER_COLUMNS, RiderList, RiderRow } from './RiderRow';
import { answering } from '../../session/answering';
import { RouteTrouble } from '../../ui/RouteTrouble';
import { TodayDesk } from './TodayDesk';
import { Welcome } from './Welcome';
import { TopBar } from '../../ui/TopBar';
import { arriving, useArrived, type Arriving } from '../../ui/useArrived';
import { useAfterFirst } from '../../ui/useAfterFirst';
import { useStudio } from '../../session/useStudio';
import { CATALOGUE } from '../../demo/catalogue';
import { isSampleRider } from '../../demo/samples';
import { isSample } from '../../demo/signature';
import { studioWithoutOld } from '../../session/erase';
import { isUntouched, isWelcomed, seedDemo, welcomed } from '../../storage/demo';
import { removeSamples, restoreSamples } from '../../storage/samples';
import { loadStudio } from '../../storage/studio';
import type { StudioNow } from '../../storage/studioIndex';
import { askToKeep } from '../../storage/films';
import { newBike } from '../../storage/bikes';
import { blankSession, saveBike, saveRider, saveSession } from '../../storage/sessions';
import type { Route } from './+types/riders';

interface Studio {
  rows: Row[];
  unread: number;
  trashed: number;
  desk: StudioDesk;
  /** How many of the riders came with the application. */
  samples: number;
  /** Nobody has set the studio up, or put that off. */
  isNew: boolean;
}

const listed = ({ index, unreadable }: StudioNow, isNew: boolean): Studio => {
  const studio = byRider(index);
  const rows = rowsOf(studio);
  const trashed = studio.length - rows.length + index.visits.filter((v) => v.deletedIso !== null).length;
  const own = { riders: index.riders.filter((r) => !isSampleRider(r.id)), visits: index.visits };
  return {
    rows,
    unread: unreadable.length,
    trashed,
    desk: studioDesk(own, dayjs().format('YYYY-MM-DD')),
    samples: rows.filter((r) => isSampleRider(r.rider.id)).length,
    isNew,
  };
};

/** So long after the list was handed over it is drawn. */
const DRAWN_MS = 300;

async function readStudio(): Promise<Studio> {
  if (await isUntouched()) {
    // What a browser's first visit will find is known before it is laid out; who opens one of them waits for that.
    seedDemo(CATALOGUE).catch(() => undefined);
    const index = { riders: CATALOGUE.riders, visits: CATALOGUE.sessions.map(summaryOfVisit) };
    return listed({ index, unreadable: [], whole: true }, true);
  }
  await seedDemo(CATALOGUE);
  const [now, later] = await Promise.all([studioWithoutOld(new Date().toISOString()), isWelcomed()]);
  return listed(now, !later);
}

/** The page stands while a large studio is still being read. */
export const clientLoader = (): Promise<Arriving<Studio>> => arriving(readStudio());

/** Room kept for what finds and sorts the riders: in one line, in two, in three. */
const TOOLS_PX = { xs: '198px', sm: '134px', md: '66px' };

/** Rows drawn at first, and by each “Show more”. */
const PAGE = 30;

/** Looking for a rider changes the address, not what is stored. */
export function shouldRevalidate({
  currentUrl,
  nextUrl,
  formMethod,
  defaultShouldRevalidate,
}: ShouldRevalidateFunctionArgs) {
  const onlyLooking =
    !formMethod && currentUrl.pathname === nextUrl.pathname && currentUrl.search !== nextUrl.search;
  return onlyLooking ? false : defaultShouldRevalidate;
}

/** A new rider with a first visit; or the sample riders put away, or brought back. */
export const clientAction = answering(async ({ request }: Route.ClientActionArgs) => {
  const form = await request.formData();
  const samples = form.get('samples');
  if (samples !== null) {
    await seedDemo(CATALOGUE);
    await (samples === 'remove' ? removeSamples(new Date().toISOString()) : restoreSamples());
    return null;
  }
  const { error, value } = riderName.required().validate(String(form.get('name') ?? ''));
  if (error) return { message: error.message };
  const now = new Date().toISOString();
  const rider: Rider = {
    version: RECORD_VERSIONS.rider,
    id: nanoid(),
    name: value as string,
    note: String(form.get('note') ?? '').slice(0, 2000),
    email: '',
    phone: '',
    createdIso: now,
    deletedIso: null,
    habits: null,
  };
  const bike = newBike(rider.id, nanoid(), now);
  const session = blankSession({ riderId: rider.id, bikeId: bike.id, id: nanoid() }, await loadStudio(), now);
  await saveRider(rider);
  await saveBike(bike);
  await saveSession(session);
  askToKeep();
  return redirect(`/sessions/${session.id}/intake`);
});

export default function Riders({ loaderData, actionData }: Route.ComponentProps) {
  const [adding, setAdding] = useState(false);
  const [wanted, setWanted] = useState(false);
  const { name: studioName } = useStudio();
  const studio = useArrived(loaderData);
  const stands = studio !== null;
  useEffect(() => {
    if (!stands) return;
    const timer = setTimeout(fetchDialogs, DRAWN_MS);
    return () => clearTimeout(timer);
  }, [stands]);
  return (
    <Box sx={{ minHeight: '100vh' }}>
      <TopBar>
        <Typography color="textSecondary">{studioName}</Typography>
      </TopBar>
      <Box component="main" sx={{ maxWidth: { xs: 1280, xl: 1640 }, mx: 'auto', p: { xs: 2, md: 4 } }}>
        <Box sx={{ display: 'flex', alignItems: 'center', mb: 2 }}>
          <Typography variant="h1" sx={{ flex: 1 }}>
            Riders
          </Typography>
          <Button
            variant="outlined"
            onClick={() => {
              setWanted(true);
              setAdding(true);
            }}
          >
            New rider…
          </Button>
        </Box>
        {studio ? <List {...studio} /> : <Typography role="status">Reading the studio…</Typography>}
      </Box>
      {wanted && (
        <Suspense>
          <NewRider open={adding} onClose={() => setAdding(false)} refused={actionData?.message ?? null} />
        </Suspense>
      )}
    </Box>
  );
}

const FIND = 'riders-find';

/** The riders, searched and put in order. */
function List({ rows, unread, trashed, desk, samples, isNew }: Studio) {
  const studio = useStudio();
  const [later, setLater] = useState(false);
  const [search, setSearch] = useSearchParams();
  const [words, setWords] = useState(() => sessionStorage.getItem(FIND) ?? '');
  const [order, setOrder] = useState<RiderOrder>(
    ORDERS.find(([key]) => key === search.get('order'))?.[0] ?? 'visit',
  );
  // The way back leads to the same list; what was looked for stays in this tab, and out of the browser’s history.
  useEffect(() => {
    const next = new URLSearchParams(order === 'visit' ? {} : { order });
    if (next.toString() !== search.toString()) setSearch(next, { replace: true, preventScrollReset: true });
    // `search` and `setSearch` are new with every address, and would make this run for ever.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [order]);
  useEffect(() => sessionStorage.setItem(FIND, words), [words]);
  const wanted = useDeferredValue(words);
  const ordered = useMemo(() => inOrder(rows, order), [rows, order]);
  const found = useMemo(() => findRiders(ordered, wanted), [ordered, wanted]);
  // Other words or another order begin with the first of them again.
  const list = `${order} ${wanted}`;
  const [opened, setOpened] = useState({ list, rows: PAGE });
  const most = opened.list === list ? opened.rows : PAGE;
  const today = dayjs().format('YYYY-MM-DD');
  // The riders stand first; what finds and sorts them is drawn right after.
  const withTools = useAfterFirst();
  return (
    <>
      {unread > 0 && (
        <Alert severity="warning" sx={{ mb: 2 }}>
          {unread} stored {unread === 1 ? 'record was' : 'records were'} written by a newer version or can’t
          be read, and {unread === 1 ? 'is' : 'are'} kept untouched.
        </Alert>
      )}
      {isNew && !later && isSample(studio) ? (
        <Welcome
          studio={studio}
          onLater={() => {
            setLater(true);
            void welcomed();
          }}
        />
      ) : (
        <TodayDesk desk={desk} today={today} />
      )}
      {rows.length > 0 && (
        <Box sx={{ minHeight: TOOLS_PX, mb: 2 }}>
          {withTools && (
            <ListTools
              words={words}
              onWords={setWords}
              order={order}
              onOrder={setOrder}
              samples={samples}
              trashed={trashed}
            />
          )}
        </Box>
      )}
      {rows.length > 0 && found.length === 0 && (
        <Typography sx={{ mb: 2 }}>No rider’s name, note, bike or complaint has “{words}”.</Typography>
      )}
      {rows.length === 0 && (
        <Typography>No riders yet. The first one is a name away: “New rider…”.</Typography>
      )}
      {rows.length > 0 && (
        <Box
          aria-hidden
          sx={{
            display: { xs: 'none', md: 'grid' },
            gridTemplateColumns: RIDER_COLUMNS,
            gap: 3,
            px: 1.5,
            mr: '64px',
            color: 'text.secondary',
            typography: 'body2',
          }}
        >
          <span>
            {found.length === rows.length ? `${rows.length} riders` : `${found.length} of ${rows.length}`}
          </span>
          <span>last visit</span>
          <span>next follow-up</span>
          <span>open complaints</span>
          <span>progress</span>
        </Box>
      )}
      <RiderList>
        {found.slice(0, most).map((row) => (
          <RiderRow key={row.rider.id} row={row} today={today} />
        ))}
      </RiderList>
      {found.length > most && (
        <Button sx={{ mt: 2 }} onClick={() => setOpened({ list, rows: most + PAGE })}>
          Show more: {found.length - most} are left
        </Button>
      )}
    </>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return <RouteTrouble error={error} bare />;
}
