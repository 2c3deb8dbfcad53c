/** Whether a key is meant for what has the focus: text being typed, a slider, a switch that Space would turn. */
export function isTyping(e: KeyboardEvent): boolean {
  if (!(e.target instanceof HTMLElement)) return false;
  const { tagName } = e.target;
  if (e.target instanceof HTMLInputElement && /^(checkbox|radio|button)$/.test(e.target.type))
    return e.key === ' ';
  return (
    /^(INPUT|TEXTAREA|SELECT)$/.test(tagName) ||
    e.target.getAttribute('role') === 'slider' ||
    e.target.isContentEditable ||
    (tagName === 'BUTTON' && e.key === ' ')
  );
}
