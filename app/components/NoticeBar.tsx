import Button from '@mui/material/Button';
import Snackbar from '@mui/material/Snackbar';
import { useStore } from 'zustand';
import { noticeStore } from '../session/notices';

const clear = (): void => noticeStore.setState({ notice: null });

/** What just happened, with its Undo. */
export function NoticeBar() {
  const { notice } = useStore(noticeStore);
  return (
    <Snackbar
      open={notice !== null}
      message={notice?.words ?? ''}
      autoHideDuration={10_000}
      onClose={(_, why) => why !== 'clickaway' && clear()}
      action={
        notice?.undo && (
          <Button
            size="small"
            color="inherit"
            onClick={() => {
              notice.undo?.();
              clear();
            }}
          >
            Undo
          </Button>
        )
      }
    />
  );
}
