import '@fontsource-variable/archivo/wdth.css';
import './shell.css';
import type { ReactNode } from 'react';
import {
  data,
  Links,
  Meta,
  Outlet,
  Scripts,
  ScrollRestoration,
  useLocation,
  useRevalidator,
} from 'react-router';
import type { Route } from './+types/root';
import { RouteTrouble } from './ui/RouteTrouble';
import { StudioTheme } from './ui/theme/StudioTheme';
import { NonceContext } from './nonce';
import { use, useEffect } from 'react';
import { keepOffline } from './offline/register';
import { CATALOGUE } from './demo/catalogue';
import { isBare } from './storage/database';
import { newerWasHere } from './storage/generation';
import { isSeeded } from './storage/demo';
import { sweepFilms } from './storage/films';
import { wholeIndex } from './storage/studioIndex';
import { loadStudio } from './storage/studio';
import { followStudio } from './storage/tabs';
import { anythingUnsaved } from './session/visits';
import { isWriting } from './storage/saveState';
import { loadDrafts } from './storage/drafts';
import { PlainHttp } from './ui/PlainHttp';
import { NoticeBar } from './ui/NoticeBar';
import { writeDaysAs } from './ui/words/dates';

export const meta: Route.MetaFunction = () => [
  { title: 'Deep Angle' },
  {
    name: 'description',
    content: 'Film a rider, read the joint angles through the stroke, and know what to move.',
  },
];

export function Layout({ children }: { children: ReactNode }) {
  const nonce = use(NonceContext);
  return (
    <html lang="en">
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <link rel="icon" href="/icon.svg" type="image/svg+xml" />
        <Meta />
        <Links />
      </head>
      <body>
        {children}
        <ScrollRestoration nonce={nonce} />
        <Scripts nonce={nonce} />
      </body>
    </html>
  );
}

export async function clientLoader() {
  // On a first visit there is nothing to read, and nothing to sweep.
  if (await isBare()) return { studio: CATALOGUE.studio, firstVisit: true };
  if (await newerWasHere())
    throw data(
      'A newer version of Deep Angle has worked on this device; this page is of an older one, which would not understand what is stored. Reload it with a network connection to get the newer version. Nothing was changed.',
      { status: 409 },
    );
  await loadDrafts();
  // The demo studio is just being laid out.
  if (!(await isSeeded())) return { studio: CATALOGUE.studio, firstVisit: true };
  void sweepFilms(wholeIndex);
  const studio = await loadStudio();
  writeDaysAs(studio.dayFormat);
  return { studio, firstVisit: false };
}
clientLoader.hydrate = true as const;

/** What the server draws: everything else lives in this browser and is drawn here. */
export function HydrateFallback() {
  return (
    <main className="shell-wait">
      <p>Deep Angle</p>
      <noscript>Deep Angle measures in the browser itself: please allow scripts for this page.</noscript>
    </main>
  );
}

export default function Root({ loaderData }: Route.ComponentProps) {
  const { pathname } = useLocation();
  // Who only looks in on a first visit need not load all that works without a network.
  const lookingIn = loaderData.firstVisit && pathname === '/';
  useEffect(() => {
    if (!lookingIn) keepOffline();
  }, [lookingIn]);
  const { revalidate } = useRevalidator();
  useEffect(() => followStudio(() => void revalidate()), [revalidate]);
  useEffect(() => {
    // What could not be stored yet would be lost with the page.
    const ask = (e: BeforeUnloadEvent): void => {
      if (anythingUnsaved() || isWriting()) e.preventDefault();
    };
    window.addEventListener('beforeunload', ask);
    return () => window.removeEventListener('beforeunload', ask);
  }, []);
  return (
    <StudioTheme studio={loaderData.studio}>
      <PlainHttp />
      <Outlet />
      <NoticeBar />
    </StudioTheme>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return <RouteTrouble error={error} bare />;
}
