import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Snackbar from '@mui/material/Snackbar';
import { useRef, useState } from 'react';
import { writeFrontalCsv } from '../../../core/formats/angles.ts';
import { writeTracksCsv } from '../../../core/formats/tracksCsv.ts';
import type { FrontalReading } from '../../../core/kinematics/frontalReading.ts';
import { openTake, type FitSession } from '../../../core/records/types.ts';
import type { Tracks } from '../../../core/tracking/tracks.ts';
import { download } from '../../ui/download';
import { useTracksIn } from '../../jobs/useTracksIn';
import { FileField } from '../../ui/fields/FileField';

/** Writes what was followed and read from the front or the rear as files. */
export function FrontalExport({
  session,
  reading,
  tracks,
}: {
  session: FitSession;
  reading: FrontalReading;
  tracks: Tracks;
}) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [message, setMessage] = useState<string | null>(null);
  const input = useRef<HTMLInputElement | null>(null);
  const tracksIn = useTracksIn(session);
  const save = (name: string, text: string) => () => {
    setAnchor(null);
    download(`${session.id}-${reading.view}-${name}.csv`, text, 'text/csv');
  };
  return (
    <>
      <Button variant="outlined" onClick={(e) => setAnchor(e.currentTarget)} aria-haspopup="menu">
        Files
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        <MenuItem onClick={save('tracks', writeTracksCsv(tracks))}>Save tracks (CSV)</MenuItem>
        <MenuItem onClick={save('curves', writeFrontalCsv(reading))}>Save curves (CSV)</MenuItem>
        <MenuItem
          onClick={() => {
            setAnchor(null);
            input.current?.click();
          }}
        >
          Import tracks (CSV)…
        </MenuItem>
      </Menu>
      <FileField
        ref={input}
        accept=".csv,text/csv"
        testId="tracks-file"
        onFile={(file) => void tracksIn(file, openTake(session)!, null).then((done) => setMessage(done.text))}
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
