/** For those who hear the page: there, and not drawn. */
export const UNSEEN = {
  position: 'absolute',
  width: '1px',
  height: '1px',
  overflow: 'hidden',
  clipPath: 'inset(50%)',
} as const;
