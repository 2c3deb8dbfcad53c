import type { FitSession } from './types.ts';

/** How long what was deleted lies in the bin, days. */
export const BIN_DAYS = 30;

/**
 * The start of the next visit: rider, protocol, intake, body and bike as they stood; no film, nothing tried, and consent to be
 * asked anew.
 */
export function nextVisit(last: FitSession, id: string, nowIso: string): FitSession {
  return {
    ...structuredCopy(last),
    id,
    startedIso: nowIso,
    deletedIso: null,
    intake: { ...structuredCopy(last.intake), redFlags: [], filmConsent: null },
    take: null,
    triedSaddleMm: null,
  };
}

/** Records are plain JSON: a copy that shares nothing with the old visit. */
const structuredCopy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

/** Whether something deleted then has lain its time in the bin. */
export function isDue(deletedIso: string | null, nowIso: string): boolean {
  return deletedIso !== null && Date.parse(nowIso) - Date.parse(deletedIso) > BIN_DAYS * 86_400_000;
}
