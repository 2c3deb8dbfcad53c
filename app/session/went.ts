import { whatWent, withReturned } from '../../core/visit/whatWent.ts';
import type { EditResult } from '../../core/visit/edits.ts';
import type { FitSession } from '../../core/records/types.ts';
import { notify } from './notices';
import { editVisit, visitStore } from './visits';

/** Says what an edit took out of a visit's lists, with an Undo that puts just that back, whatever was edited since. */
export function tellWhatWent(id: string, before: FitSession, after: FitSession): void {
  const went = whatWent(before, after);
  if (!went) return;
  const back = async (): Promise<EditResult> => {
    const now = visitStore.getState().open[id]?.shown ?? after;
    return editVisit(id, { kind: 'set', at: went.at, value: withReturned(now, went) });
  };
  notify(`${went.words}.`, () => void back().then((r) => r.ok || notify(r.message)));
}
