import type { Studio } from '../../../core/records/types.ts';

/** What presenters' remotes send as a rule, by what it means here: the next step on the bike (N), or it is undone (U). */
const USUAL: Record<string, 'n' | 'u'> = { pagedown: 'n', arrowright: 'n', pageup: 'u', arrowleft: 'u' };

/**
 * What a key of a remote means at the trial; null where it means nothing.
 * @param pressed as the browser calls it  @param own the studio's keys; empty where the usual ones will do
 */
export function meantBy(pressed: string, own: Studio['remote']): 'n' | 'u' | null {
  const key = pressed.toLowerCase();
  if (own.next && key === own.next.toLowerCase()) return 'n';
  if (own.back && key === own.back.toLowerCase()) return 'u';
  const usual = USUAL[key] ?? null;
  // A way that has a key of its own has no other.
  return (usual === 'n' && own.next) || (usual === 'u' && own.back) ? null : usual;
}
