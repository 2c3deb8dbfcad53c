import { checkRecord, type Checked, type RecordOf } from '../../core/records/schemas.ts';
import { saving } from './saveState';
import { settingsStore } from './stores';
import { alone, tellWritten } from './tabs';

type Kind = 'studio' | 'parts' | 'protocols';

/** The studio's records besides riders and visits, one of each kind. */
export const loadSetting = async <K extends Kind>(kind: K): Promise<Checked<RecordOf[K]> | null> => {
  const stored = await settingsStore.getItem(kind);
  return stored === null ? null : checkRecord(kind, stored);
};

/**
 * Stores what is made of the record as it stands, if it can be; says what can't. No other tab's change comes between, and what was
 * written by a newer version is left as it is.
 * @param change makes the new record; of null where none is stored that can be read
 */
export function changeSetting<K extends Kind>(
  kind: K,
  change: (before: RecordOf[K] | null) => RecordOf[K],
): Promise<Checked<RecordOf[K]>> {
  // “Saving…” stands from the moment of the change, not only while the database writes.
  return saving(() =>
    alone(`setting:${kind}`, async () => {
      const before = await loadSetting(kind);
      if (before && !before.ok && before.reason === 'newer') return before;
      const checked = checkRecord(kind, change(before?.ok ? before.value : null));
      if (checked.ok) {
        await settingsStore.setItem(kind, checked.value);
        tellWritten(kind);
      }
      return checked;
    }),
  );
}
