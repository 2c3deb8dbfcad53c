import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Snackbar from '@mui/material/Snackbar';
import { useRef, useState } from 'react';
import { summarise, writeAnglesCsv } from '../../core/formats/angles.ts';
import { writeTracksCsv, parseTracksCsv } from '../../core/formats/tracksCsv.ts';
import { SIDE_LANDMARKS } from '../../core/stroke/landmarks.ts';
import { openTake, type FitSession } from '../../core/records/types.ts';
import type { Reading } from '../../core/stroke/read.ts';
import type { Tracks } from '../../core/stroke/tracks.ts';
import { saving } from '../storage/saveState';
import { saveTracks } from '../storage/stores';
import { download } from './download';
import { useEdit } from './useEdit';

/** Writes the session's tracks, angles and whole record as files, and reads a tracks table back in. */
export function ExportMenu({
  session,
  reading,
  tracks,
}: {
  session: FitSession;
  reading: Reading;
  tracks: Tracks;
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const input = useRef<HTMLInputElement | null>(null);
  const { edit } = useEdit();
  const stem = session.id.replace(/[^A-Za-z0-9_-]/g, '');
  const act = (run: () => void) => () => {
    setAnchor(null);
    run();
  };
  const readIn = async (file: File): Promise<void> => {
    const parsed = parseTracksCsv(await file.text());
    const missing = parsed.ok ? SIDE_LANDMARKS.find((k) => !parsed.tracks.landmarks[k]) : null;
    const frames = openTake(session)!.video.frames;
    if (!parsed.ok) setSaid(parsed.message);
    else if (missing) setSaid(`Row 1: the columns of “${missing}” are missing.`);
    else if (parsed.tracks.tS.length !== frames)
      setSaid(
        `The table has ${parsed.tracks.tS.length} rows, but the film has ${frames} frames: they don’t belong together.`,
      );
    else {
      const revision = Date.now();
      await saving(() => saveTracks(openTake(session)!.id, revision, parsed.tracks));
      await edit({
        kind: 'tracking',
        takeId: openTake(session)!.id,
        tracking: { state: 'done', framesDone: frames, revision },
      });
      setSaid(`Tracks read in from ${file.name}.`);
    }
  };
  return (
    <>
      <Button variant="outlined" onClick={(e) => setAnchor(e.currentTarget)} aria-haspopup="menu">
        Files
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        <MenuItem onClick={act(() => download(`${stem}-tracks.csv`, writeTracksCsv(tracks), 'text/csv'))}>
          Save tracks (CSV)
        </MenuItem>
        <MenuItem onClick={act(() => download(`${stem}-angles.csv`, writeAnglesCsv(reading), 'text/csv'))}>
          Save angles (CSV)
        </MenuItem>
        <MenuItem
          onClick={act(() =>
            download(
              `${stem}-session.json`,
              JSON.stringify({ session, summary: summarise(reading) }, null, 2),
              'application/json',
            ),
          )}
        >
          Save session (JSON)
        </MenuItem>
        <MenuItem onClick={act(() => input.current?.click())}>Read tracks in (CSV)…</MenuItem>
      </Menu>
      <input
        ref={input}
        type="file"
        hidden
        accept=".csv,text/csv"
        data-testid="tracks-file"
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = '';
          if (file) void readIn(file);
        }}
      />
      <Snackbar open={said !== null} autoHideDuration={9000} onClose={() => setSaid(null)} message={said} />
    </>
  );
}
