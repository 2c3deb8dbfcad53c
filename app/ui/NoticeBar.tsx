import Button from '@mui/material/Button';
import Snackbar from '@mui/material/Snackbar';
import { useStore } from 'zustand';
import { clearNotice, noticeStore } from '../session/notices';

/** What just happened, with its Undo. */
export function NoticeBar() {
  const { notice } = useStore(noticeStore);
  return (
    <Snackbar
      open={notice !== null}
      message={notice?.words ?? ''}
      // Under the rulers: at the foot it would lie over the film's transport.
      anchorOrigin={{ vertical: 'top', horizontal: 'center' }}
      sx={{ top: { xs: 132, sm: 120 } }}
      autoHideDuration={10_000}
      onClose={(_, why) => why !== 'clickaway' && clearNotice()}
      action={
        notice?.undo && (
          <Button
            size="small"
            color="inherit"
            onClick={() => {
              // First: what is taken back may have something to say.
              clearNotice();
              notice.undo?.();
            }}
          >
            Undo
          </Button>
        )
      }
    />
  );
}
