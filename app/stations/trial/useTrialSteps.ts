import { useCallback, useEffect, useMemo } from 'react';
import { takesHalfSteps } from '../../../core/intake/intake.ts';
import type { RiderWord } from '../../../core/plan/terms/change.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { nextLine, progressOf, souredLines, valuesOf } from '../../../core/visit/progress.ts';
import { roundSetup } from '../../../core/visit/rounds.ts';
import { differences, roundNow, setupNow } from '../../../core/visit/setups.ts';
import { useSet } from '../../session/useSet';
import { useStudio } from '../../session/useStudio';
import { meantBy } from './remoteKeys';
import { isTyping } from '../../ui/typing';
import type { Devices } from './useDevices';

const WORD_KEYS: Record<string, RiderWord> = { b: 'better', s: 'same', w: 'worse' };

/**
 * The plan’s next step and the change that is being ridden, with their keys: one puts the next step on the bike, one more says what the
 * rider says; undone as easily.
 * @param remote a presenter’s remote works too: forward is the next step, back undoes it
 */
export function useTrialSteps(session: FitSession, devices: Devices, remote = false) {
  const { set, step, putBack, allBack, refused } = useSet();
  const { remote: keys } = useStudio();
  const now = setupNow(session);
  const round = roundNow(session);
  const filmed = roundSetup(session, round);
  const progress = useMemo(
    () => progressOf(session.plan?.lines ?? [], filmed, now, takesHalfSteps(session.intake)),
    [session.plan, session.intake, filmed, now],
  );
  const soured = useMemo(() => souredLines(session.changes, round), [session.changes, round]);
  const next = nextLine(progress, soured);
  // A bike that was handed over as it stands is not asked to be moved on.
  const left = session.final !== null && differences(session.final, now).length === 0;
  const last = session.changes.at(-1) ?? null;
  const awaiting = last && last.word === null && last.putBackIso === null ? last : null;

  const start = useCallback((): void => {
    if (next && !awaiting) step(valuesOf(now, next.next), next.line.key);
  }, [next, awaiting, now, step]);
  const say = useCallback(
    (word: RiderWord | null): void => {
      if (!last) return;
      set(`changes.#${last.id}.word`, word);
      const ridden = word === null ? null : devices.ridden();
      if (ridden) set(`changes.#${last.id}.ridden`, ridden);
    },
    [last, set, devices],
  );
  useEffect(() => {
    const onKey = (e: KeyboardEvent): void => {
      if (e.ctrlKey || e.metaKey || e.altKey || e.defaultPrevented) return;
      if (isTyping(e) || (e.target as HTMLElement).closest('[role="dialog"]')) return;
      const key = (remote && meantBy(e.key, keys)) || e.key.toLowerCase();
      if (key === 'n' && next && !awaiting) start();
      else if (WORD_KEYS[key] && last && !last.putBackIso) say(WORD_KEYS[key]);
      else if (key === 'u' && last && !last.putBackIso) putBack(last.id);
      else return;
      e.preventDefault();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [next, awaiting, last, start, say, putBack, remote, keys]);

  return {
    set,
    step,
    putBack,
    allBack,
    refused,
    now,
    round,
    progress,
    soured,
    next,
    left,
    last,
    awaiting,
    start,
    say,
  };
}
