import { RECORD_VERSIONS } from '../../core/records/migrations.ts';
import {
  NEW_STUDIO,
  type Bike,
  type FitSession,
  type Rider,
  type Studio,
  type Take,
} from '../../core/records/types.ts';
import { NOTHING_DONE } from '../../core/visit/visits.ts';
import { NO_STATICS } from '../../core/body/statics.ts';
import records from './records.json';
import story from './story.json';
import takes from './takes.json';

/** The demo studio: made-up riders with a session each, and the films that the virtual rider shot. */
export interface Catalogue {
  studio: Studio;
  riders: Rider[];
  bikes: Bike[];
  sessions: FitSession[];
  /** Clips offered on the Film station, by session. */
  clips: Record<string, { url: string; name: string; caption: string }>;
}

const version = RECORD_VERSIONS.rider;

/** Takes already marked and tracked, made by `scripts/make-demo-takes.ts`. */
const READY = takes as unknown as Record<string, Take[]>;

/** Maren's two visits, from intake to the check after six weeks, made by the same script as `records.json`. */
const MAREN = story as unknown as { rider: Pick<Rider, 'habits'>; sessions: FitSession[] };

/** Intake, body and bike as found, made by `scripts/make-demo-records.ts`. */
const NOTED = records as unknown as Record<string, Pick<FitSession, 'intake' | 'body' | 'asFound'>>;

function session(
  id: string,
  { startedIso, protocolId, due, why }: { startedIso: string; protocolId: string; due: string; why: string },
): FitSession {
  return {
    version: RECORD_VERSIONS.session,
    id: `${id}-1`,
    riderId: id,
    startedIso,
    deletedIso: null,
    bikeId: `${id}-bike`,
    followsId: null,
    protocolId,
    protocol: null,
    statics: NO_STATICS,
    ...NOTED[id],
    ...NOTHING_DONE,
    followUps: [{ id: `${id}-f1`, due, why, doneIso: null }],
    takes: READY[`${id}-1`] ?? [],
    takeId: READY[`${id}-1`]?.at(-1)?.id ?? null,
  };
}

const bike = (riderId: string, createdIso: string): Bike => ({
  version: RECORD_VERSIONS.bike,
  id: `${riderId}-bike`,
  riderId,
  name: NOTED[riderId].asFound.name,
  note: '',
  createdIso,
});

/** The Kiln Yard Fitting Room. Maren has been handed over and came back after six weeks; the others are being planned. */
export const CATALOGUE: Catalogue = {
  studio: {
    ...NEW_STUDIO,
    name: 'Kiln Yard Fitting Room',
    fitter: 'Orla Fenwright',
    contact: 'The old tile works, towpath gate; Tuesday to Saturday',
  },
  bikes: [
    bike('maren', '2026-10-02T09:00:00.000Z'),
    bike('idris', '2026-11-04T09:00:00.000Z'),
    bike('pilar', '2026-11-09T09:00:00.000Z'),
    bike('juno', '2026-11-12T09:00:00.000Z'),
  ],
  riders: [
    {
      version,
      id: 'maren',
      name: 'Maren Toft',
      note: 'Bridge inspector, 47. Five days of towpath gravel ahead; ache at the front of the knee, tingling hands.',
      email: '',
      phone: '',
      createdIso: '2026-10-02T09:00:00.000Z',
      deletedIso: null,
      ...MAREN.rider,
    },
    {
      version,
      id: 'idris',
      name: 'Idris Bellweather',
      note: 'Letter carrier, 29, on a flat-bar city bike, new to clipless pedals; pain at the outside of both feet.',
      email: '',
      phone: '',
      createdIso: '2026-11-04T09:00:00.000Z',
      deletedIso: null,
      habits: null,
    },
    {
      version,
      id: 'pilar',
      name: 'Pilar Quist',
      note: 'Keeps the observatory’s instruments, 61, and rides up to it; low back, returning after two years off.',
      email: '',
      phone: '',
      createdIso: '2026-11-09T09:00:00.000Z',
      deletedIso: null,
      habits: null,
    },
    {
      version,
      id: 'juno',
      name: 'Juno Achterberg',
      note: 'Rides pursuit on a concrete track, 34, on extensions; nothing hurts, wants to be lower.',
      email: '',
      phone: '',
      createdIso: '2026-11-12T09:00:00.000Z',
      deletedIso: null,
      habits: null,
    },
  ],
  sessions: [
    ...MAREN.sessions,
    session('idris', {
      startedIso: '2026-11-20T13:00:00.000Z',
      protocolId: 'city',
      due: '2026-11-25',
      why: 'Cleats back, wider stance: the trial',
    }),
    session('pilar', {
      startedIso: '2026-11-18T10:15:00.000Z',
      protocolId: 'long-distance',
      due: '2026-11-24',
      why: 'Cranks have come: the trial',
    }),
    session('juno', {
      startedIso: '2026-11-16T16:45:00.000Z',
      protocolId: 'time-trial',
      due: '2026-12-02',
      why: 'Trial on the track’s rollers',
    }),
  ],
  clips: {
    'maren-1': {
      url: '/demo/maren.webm',
      name: 'maren.webm',
      caption: 'Drive side, on the hoods, easy effort, 84 rpm',
    },
    'idris-1': {
      url: '/demo/idris.webm',
      name: 'idris.webm',
      caption: 'Non-drive side, easy effort, 78 rpm',
    },
    'pilar-1': {
      url: '/demo/pilar.webm',
      name: 'pilar.webm',
      caption: 'Drive side, on the hoods, easy effort, 72 rpm',
    },
    'juno-1': {
      url: '/demo/juno.mp4',
      name: 'juno.mp4',
      caption: 'Drive side, on the extensions, working effort, 97 rpm',
    },
  },
};
