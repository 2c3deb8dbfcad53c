import Alert from '@mui/material/Alert';
import { useSyncExternalStore } from 'react';

const never = (): (() => void) => () => undefined;

/** Opened from another device over plain http, browsers give a page neither camera nor film: said on every page, with the way out. */
export function PlainHttp() {
  const plain = useSyncExternalStore(
    never,
    () => !window.isSecureContext,
    () => false,
  );
  if (!plain) return null;
  return (
    <Alert severity="warning" variant="outlined" className="no-print" sx={{ borderRadius: 0, py: 0 }}>
      Opened over plain http from another device: the browser gives this page no camera, no film and nothing
      without a network. Open it on the device that it runs on (http://localhost), or through https.
    </Alert>
  );
}
