/** The house's colours: paper and ink with one accent, fired clay. What they stand for is always shown by shape or word first. */
export const paperColours = (dark: boolean) => ({
  text: dark ? '#ece6d8' : '#1d282e',
  quiet: dark ? '#b4ae9f' : '#55605f',
  background: dark ? '#14191c' : '#f4f0e6',
  sheet: dark ? '#1c2226' : '#fbf8f1',
  accent: dark ? '#e2895a' : '#a3451c',
  onAccent: dark ? '#1b1411' : '#fffaf2',
  second: dark ? '#7fb4cf' : '#23607f',
  rule: dark ? '#3a4247' : '#cfc7b5',
  faint: dark ? '#3a4247' : '#d9d2c1',
  band: dark ? '#2b3a3d' : '#e2dcc6',
  warning: dark ? '#e0b45c' : '#8a5a00',
  error: dark ? '#f08a7c' : '#9c2b1e',
  measured: dark ? '#e2895a' : '#a3451c',
  predicted: dark ? '#7fb4cf' : '#23607f',
  plate: dark ? 'rgba(20,25,28,0.82)' : 'rgba(251,248,241,0.88)',
});

/** The same for who asked for more contrast, or looks at it in bright light: nothing quiet, nothing pale. */
export const sharpColours = (dark: boolean): ReturnType<typeof paperColours> => ({
  ...paperColours(dark),
  text: dark ? '#ffffff' : '#000000',
  quiet: dark ? '#ece6d8' : '#1d282e',
  background: dark ? '#000000' : '#ffffff',
  sheet: dark ? '#0b0e10' : '#ffffff',
  accent: dark ? '#f5a57c' : '#7d2f0e',
  rule: dark ? '#8f979c' : '#6b6455',
  faint: dark ? '#6b7378' : '#a39b88',
  band: dark ? '#39504f' : '#cdc39c',
});
