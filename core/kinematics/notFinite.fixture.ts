/** Places of plain figures that are no finite number; paths through the film, one figure a frame, have gaps by their nature. */
export function notFinite(value: unknown, at = ''): string[] {
  if (typeof value === 'number') return Number.isFinite(value) ? [] : [`${at} ${value}`];
  if (typeof value !== 'object' || value === null || ArrayBuffer.isView(value)) return [];
  return Object.entries(value).flatMap(([key, v]) => notFinite(v, `${at}.${key}`));
}
