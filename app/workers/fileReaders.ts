import { transfer } from 'comlink';
import { nanoid } from 'nanoid';
import { checkRecord } from '../../core/records/schemas.ts';
import type { FitSession } from '../../core/records/types.ts';
import { parseAnglesCsv, parseFrontalCsv } from '../../core/formats/angles.ts';
import { clipsOfBundle, inspectBundle, type Inspection } from '../../core/formats/inspectBundle.ts';
import type { DamagedEntry } from '../../core/formats/unpackBundle.ts';
import { readC3d } from '../../core/formats/c3d.ts';
import { parseMatCsv, parseTrainerCsv } from '../../core/formats/devicesCsv.ts';
import { parsePartsCsv } from '../../core/formats/partsCsv.ts';
import { parsePlanLog } from '../../core/formats/planLog.ts';
import { parseProtocols } from '../../core/formats/protocolsJson.ts';
import { parseTracksCsv } from '../../core/formats/tracksCsv.ts';

interface Refused {
  ok: false;
  message: string;
}

/** No file of these kinds is larger, bytes. */
const MOST = { table: 80_000_000, markers: 200_000_000, json: 20_000_000 };

/** A reader of text files as one of files: too large is refused before it is read. */
const ofText =
  <T>(most: number, read: (text: string) => T) =>
  async (file: Blob): Promise<T | Refused> =>
    file.size > most
      ? { ok: false, message: `It is over ${most / 1e6} MB: no file of its kind is.` }
      : read(await file.text());

/** The visit in a file of its own. */
function visitIn(text: string): { ok: true; value: FitSession } | Refused {
  let record: unknown;
  try {
    record = (JSON.parse(text) as { session?: unknown }).session;
  } catch {
    return { ok: false, message: 'This is neither a backup nor a visit: it can’t be read as JSON.' };
  }
  if (typeof record !== 'object' || record === null)
    return {
      ok: false,
      message: 'There is no visit in this file. A visit’s own file is saved under Files on Read.',
    };
  const session = checkRecord('session', record);
  return session.ok
    ? { ok: true, value: session.value }
    : { ok: false, message: `The visit in this file can’t be used: ${session.message}` };
}

/** Every reader of files from outside, away from the page: none holds it up, and each can be ended. */
export const fileReaders = {
  tracks: ofText(MOST.table, parseTracksCsv),
  trainer: ofText(MOST.table, parseTrainerCsv),
  mat: ofText(MOST.table, parseMatCsv),
  angles: ofText(MOST.table, parseAnglesCsv),
  frontal: ofText(MOST.table, parseFrontalCsv),
  parts: ofText(MOST.json, (text) => parsePartsCsv(text, () => nanoid())),
  protocols: ofText(MOST.json, parseProtocols),
  planLog: ofText(MOST.json, parsePlanLog),

  /** A visit's own file. */
  visit: ofText(MOST.json, visitIn),

  markers: async (file: Blob): Promise<ReturnType<typeof readC3d>> =>
    file.size > MOST.markers
      ? { ok: false, message: 'It is over 200 MB: no C3D file of a ride is.' }
      : readC3d(new Uint8Array(await file.arrayBuffer())),

  /** What is in a backup; its films stay packed. */
  backup: async (file: Blob): Promise<Inspection> => {
    const found = await inspectBundle(file);
    const buffers = [...found.tracks.values()].flatMap(({ tS, landmarks }) => [
      tS.buffer,
      ...Object.values(landmarks).flatMap((t) => [t.xPx.buffer, t.yPx.buffer, t.confidence.buffer]),
    ]);
    return transfer(found, [...new Set(buffers)] as ArrayBuffer[]);
  },

  /** Films of a backup, one after another. @param keep gets each; the next is unpacked when it is done with it */
  films: async (
    file: Blob,
    takeIds: ReadonlySet<string>,
    keep: (takeId: string, film: Blob) => Promise<void>,
  ): Promise<DamagedEntry[]> => {
    const kept: Promise<void>[] = [];
    const faults = await clipsOfBundle(file, takeIds, (takeId, bytes) => {
      kept.push(keep(takeId, new Blob([bytes as Uint8Array<ArrayBuffer>])));
    });
    await Promise.all(kept);
    return faults;
  },
};

export type FilesApi = typeof fileReaders;
