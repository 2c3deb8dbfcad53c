import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import { useEffect, useRef } from 'react';
import { useStore } from 'zustand';
import { liveStore, showLive } from '../../jobs/live';

/** Wide enough for a tablet's half: drawing more costs the reading its time. */
const WIDTH_PX = 800;

/** What the camera sees, drawn with the joints by whoever finds them: both are of the same moment. */
export function LivePicture() {
  const host = useRef<HTMLDivElement | null>(null);
  const { palette } = useTheme();
  const camera = useStore(liveStore, (s) => s.camera);
  const { plate, line } = palette.ink;
  const joint = palette.primary.main;
  useEffect(() => {
    if (!camera || !host.current) return undefined;
    // A canvas can be handed over once: each time somebody looks it is a new one.
    const canvas = document.createElement('canvas');
    canvas.width = WIDTH_PX;
    canvas.height = Math.round((WIDTH_PX * camera.heightPx) / camera.widthPx);
    Object.assign(canvas.style, { width: '100%', height: '100%', display: 'block' });
    canvas.setAttribute('role', 'img');
    canvas.setAttribute('aria-label', 'What the camera sees');
    host.current.append(canvas);
    showLive(canvas.transferControlToOffscreen(), { plate, line, joint });
    return () => {
      showLive(null, { plate, line, joint });
      canvas.remove();
    };
  }, [camera, plate, line, joint]);
  const { widthPx, heightPx } = camera ?? { widthPx: 16, heightPx: 9 };
  return (
    <Box
      ref={host}
      sx={{ bgcolor: 'ink.faint', aspectRatio: `${widthPx} / ${heightPx}`, overflow: 'hidden' }}
    />
  );
}
