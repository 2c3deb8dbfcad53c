import Button from '@mui/material/Button';
import Dialog, { type DialogProps } from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import Typography from '@mui/material/Typography';
import { useEffect, useEffectEvent, useState } from 'react';
import { useBlocker } from 'react-router';

/** While it stands, the browser’s Back means this. */
function BackMeans({ close }: { close: () => void }) {
  const blocker = useBlocker(({ historyAction }) => historyAction === 'POP');
  const onBack = useEffectEvent(close);
  useEffect(() => {
    if (blocker.state !== 'blocked') return;
    blocker.reset();
    onBack();
  }, [blocker]);
  return null;
}

/** A dialog that the browser's Back closes instead of leaving the page, and that asks before typed words are thrown away. */
export function PageDialog({
  onClose,
  unsaved = false,
  children,
  ...dialog
}: Omit<DialogProps, 'onClose'> & {
  onClose: () => void;
  /** Something was typed that closing would throw away. */
  unsaved?: boolean;
}) {
  const [asking, setAsking] = useState(false);
  const close = (): void => {
    if (unsaved && !asking) setAsking(true);
    else {
      setAsking(false);
      onClose();
    }
  };
  return (
    <Dialog {...dialog} onClose={close}>
      {dialog.open && <BackMeans close={close} />}
      {children}
      {unsaved && asking && (
        <DialogActions
          role="alert"
          sx={{ borderTop: 1, borderColor: 'divider', justifyContent: 'space-between' }}
        >
          <Typography>What you typed is not stored yet.</Typography>
          <span>
            <Button onClick={() => setAsking(false)}>Go on</Button>
            <Button color="error" onClick={close}>
              Discard it
            </Button>
          </span>
        </DialogActions>
      )}
    </Dialog>
  );
}
