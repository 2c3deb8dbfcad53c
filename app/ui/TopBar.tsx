import DarkMode from '@mui/icons-material/DarkModeOutlined';
import LightMode from '@mui/icons-material/LightModeOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import { useTheme } from '@mui/material/styles';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import { useStore } from 'zustand';
import { Link } from 'react-router';
import { useSend } from '../session/useSend';
import { offlineStore, takeNewer } from '../offline/register';
import { JobsLine } from './JobsLine';
import { StudioMenu } from './StudioMenu';
import { useAfterFirst } from './useAfterFirst';
import { saveAgain, saveStore } from '../storage/saveState';

function SaveNote() {
  const s = useStore(saveStore);
  const text = s.state === 'failed' ? `Could not save: ${s.why}` : 'Saving…';
  return (
    <Typography
      variant="body2"
      role="status"
      sx={{
        color: s.state === 'failed' ? 'error.main' : 'text.secondary',
        fontWeight: s.state === 'failed' ? 600 : 400,
        maxWidth: 420,
        // On a phone the first word says it; a failure is stated whole.
        ...(s.state !== 'failed' && { whiteSpace: 'nowrap' }),
      }}
    >
      {s.state === 'saved' ? (
        <>
          Saved
          <Box component="span" sx={{ display: { xs: 'none', sm: 'inline' } }}>
            {' '}
            on this device
          </Box>
        </>
      ) : (
        text
      )}{' '}
      {s.state === 'failed' && s.again && (
        <Button size="small" color="error" onClick={saveAgain}>
          Try again
        </Button>
      )}
      {s.state === 'failed' && s.full && (
        <Link to="/backup" style={{ color: 'inherit' }}>
          What is big
        </Link>
      )}
    </Typography>
  );
}

/** Whether there is a network, and a newer version on offer: taken when the fitter says so, never by itself. */
function OfflineNote() {
  const s = useStore(offlineStore);
  return (
    <>
      {!s.online && (
        <Typography variant="body2" role="status" sx={{ fontWeight: 600 }}>
          {s.ready ? 'No network: everything here goes on' : 'No network'}
        </Typography>
      )}
      {s.newer && (
        <Tooltip describeChild title="Reloads the page; nothing stored is lost">
          <Button size="small" variant="outlined" onClick={takeNewer}>
            New version: reload
          </Button>
        </Tooltip>
      )}
    </>
  );
}

/** Room for the buttons at the end: one on a phone, two elsewhere. */
const BUTTONS_PX = { xs: '44px', sm: '104px' };

/** The wordmark, what the page is about, and the state of saving. */
export function TopBar({ children, tools }: { children?: ReactNode; tools?: ReactNode }) {
  const { send } = useSend<{ theme: 'light' | 'dark' }>('/settings');
  const afterFirst = useAfterFirst();
  const dark = useTheme().palette.mode === 'dark';
  const turn = (): void => send({ theme: dark ? 'light' : 'dark' });
  return (
    <>
      <Box
        component="header"
        className="no-print"
        sx={{
          display: 'flex',
          alignItems: 'center',
          gap: { xs: 0.5, sm: 2 },
          px: { xs: 1.5, sm: 2.5 },
          minHeight: 56,
          borderBottom: 1,
          borderColor: 'divider',
        }}
      >
        <Box
          component={Link}
          to="/"
          aria-label="Deep Angle: all riders"
          sx={{
            display: 'flex',
            gap: 1,
            alignItems: 'center',
            color: 'text.primary',
            textDecoration: 'none',
            minHeight: 44,
            flexShrink: 0,
          }}
        >
          <Box
            component="svg"
            viewBox="0 0 24 24"
            sx={{ width: 24, height: 24, stroke: 'currentColor', fill: 'none', strokeWidth: 1.6 }}
            aria-hidden
          >
            <path d="M3 20 H21 M3 20 L15 4" strokeLinecap="round" />
            <Box
              component="path"
              d="M11 20 A8 8 0 0 0 7.8 13.6"
              sx={{ stroke: (t) => t.palette.primary.main, strokeWidth: 2 }}
            />
          </Box>
          <Typography
            component="span"
            sx={{
              fontWeight: 640,
              fontStretch: '90%',
              fontSize: '1.05rem',
              // On a phone the rider's name has the room.
              display: tools ? { xs: 'none', sm: 'inline' } : 'inline',
            }}
          >
            Deep Angle
          </Typography>
        </Box>
        <Box
          sx={{
            flex: 1,
            minWidth: 0,
            '& > p': { overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' },
          }}
        >
          {children}
        </Box>
        {tools}
        <OfflineNote />
        <SaveNote />
        {afterFirst ? (
          <>
            <Tooltip title={dark ? 'Light theme' : 'Dark theme'}>
              <IconButton
                sx={{ display: { xs: 'none', sm: 'inline-flex' } }}
                aria-label={dark ? 'Use the light theme' : 'Use the dark theme'}
                onClick={turn}
              >
                {dark ? <LightMode /> : <DarkMode />}
              </IconButton>
            </Tooltip>
            <StudioMenu dark={dark} onTheme={turn} />
          </>
        ) : (
          <Box sx={{ width: BUTTONS_PX }} />
        )}
      </Box>
      <JobsLine />
    </>
  );
}
