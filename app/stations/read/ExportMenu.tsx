import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Snackbar from '@mui/material/Snackbar';
import { useRef, useState } from 'react';
import { summarise, writeAnglesCsv } from '../../../core/formats/angles.ts';
import { writeTracksCsv } from '../../../core/formats/tracksCsv.ts';
import { openTake, type FitSession } from '../../../core/records/types.ts';
import type { Reading } from '../../../core/kinematics/read.ts';
import type { Tracks } from '../../../core/tracking/tracks.ts';
import { download } from '../../ui/download';
import { useTracksIn } from '../../jobs/useTracksIn';
import { FileField } from '../../ui/fields/FileField';

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
  const [message, setMessage] = useState<string | null>(null);
  const input = useRef<HTMLInputElement | null>(null);
  const tracksIn = useTracksIn(session);
  const stem = session.id.replace(/[^A-Za-z0-9_-]/g, '');
  const act = (run: () => void) => () => {
    setAnchor(null);
    run();
  };
  const readIn = async (file: File): Promise<void> =>
    setMessage((await tracksIn(file, openTake(session)!, { reading, tracks })).text);
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
              `${stem}-visit.json`,
              JSON.stringify({ session, summary: summarise(reading) }, null, 2),
              'application/json',
            ),
          )}
        >
          Save visit (JSON)
        </MenuItem>
        <MenuItem
          onClick={() => {
            setAnchor(null);
            input.current?.click();
          }}
        >
          Import tracks (CSV, C3D)…
        </MenuItem>
      </Menu>
      <FileField
        ref={input}
        accept=".csv,text/csv,.c3d"
        testId="tracks-file"
        onFile={(file) => void readIn(file)}
      />
      <Snackbar
        open={message !== null}
        autoHideDuration={9000}
        onClose={() => setMessage(null)}
        message={message}
      />
    </>
  );
}
