import { isSamplePart, isSampleRider } from '../demo/samples';
import { loadParts, saveParts } from './parts';
import { changeRider } from './sessions';
import { studioIndex } from './studioIndex';

/** Puts the sample riders with their visits into the trash, and the sample parts. */
export async function removeSamples(nowIso: string): Promise<void> {
  await setDeleted(nowIso);
  const stored = await loadParts();
  if (!stored.ok) return;
  const { parts } = stored.value;
  await saveParts(
    parts.filter((p) => !isSamplePart(p.id)),
    parts,
    nowIso,
  );
}

/** Brings them back as they were left. */
export async function restoreSamples(): Promise<void> {
  await setDeleted(null);
  const stored = await loadParts();
  if (!stored.ok) return;
  const { parts, removed } = stored.value;
  const back = removed.map((r) => r.part).filter((p) => isSamplePart(p.id));
  await saveParts([...parts, ...back], parts);
}

async function setDeleted(deletedIso: string | null): Promise<void> {
  const { riders } = (await studioIndex()).index;
  for (const { id } of riders) if (isSampleRider(id)) await changeRider(id, (r) => ({ ...r, deletedIso }));
}
