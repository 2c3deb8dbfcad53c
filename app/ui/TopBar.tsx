import DarkMode from '@mui/icons-material/DarkModeOutlined';
import LightMode from '@mui/icons-material/LightModeOutlined';
import Tune from '@mui/icons-material/Tune';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import { useTheme } from '@mui/material/styles';
import Tooltip from '@mui/material/Tooltip';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import { useStore } from 'zustand';
import { Link, useFetcher } from 'react-router';
import { offlineStore, takeNewer } from '../offline/register';
import { JobsLine } from './JobsLine';
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
        // On a phone the first word says it; a failure is said whole.
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
        <Tooltip describeChild title="Draws the page anew; what is stored stays">
          <Button size="small" variant="outlined" onClick={takeNewer}>
            Newer version: use it
          </Button>
        </Tooltip>
      )}
    </>
  );
}

/** The wordmark, what the page is about, and the state of saving. */
export function TopBar({ children, tools }: { children?: ReactNode; tools?: ReactNode }) {
  const fetcher = useFetcher();
  const dark = useTheme().palette.mode === 'dark';
  return (
    <>
      <Box
        component="header"
        className="no-print"
        sx={{
          display: 'flex',
          alignItems: 'center',
          gap: 2,
          px: 2.5,
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
          <Typography component="span" sx={{ fontWeight: 640, fontStretch: '90%', fontSize: '1.05rem' }}>
            Deep Angle
          </Typography>
        </Box>
        <Box sx={{ flex: 1, minWidth: 0 }}>{children}</Box>
        {tools}
        <OfflineNote />
        <SaveNote />
        <Tooltip title="Settings">
          <IconButton component={Link} to="/settings" aria-label="Settings">
            <Tune />
          </IconButton>
        </Tooltip>
        <Tooltip title={dark ? 'Light paper' : 'Dark room'}>
          <IconButton
            aria-label={dark ? 'Use the light theme' : 'Use the dark theme'}
            onClick={() =>
              void fetcher.submit(
                { theme: dark ? 'light' : 'dark' },
                { method: 'post', action: '/settings', encType: 'application/json' },
              )
            }
          >
            {dark ? <LightMode /> : <DarkMode />}
          </IconButton>
        </Tooltip>
      </Box>
      <JobsLine />
    </>
  );
}
