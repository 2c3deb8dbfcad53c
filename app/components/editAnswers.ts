import type { EditResult } from '../../core/records/edits.ts';

/** What came of edits, until whoever sent them has asked. */
const answers = new Map<string, EditResult>();

export const noteAnswer = (id: string, result: EditResult): void => void answers.set(id, result);

/** What came of an edit, once; null where it never arrived. */
export function answerTo(id: string): EditResult | null {
  const answer = answers.get(id) ?? null;
  answers.delete(id);
  return answer;
}
