import Videocam from '@mui/icons-material/VideocamOutlined';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import dayjs from 'dayjs';
import Joi from 'joi';
import { useCallback, useEffect, useRef, useState, type ReactNode } from 'react';
import { camerasHere, cameraTrouble, openCamera } from '../../jobs/camera';
import { WhichCamera } from '../../ui/film/WhichCamera';
import { PageDialog } from '../../ui/PageDialog';
import { Choice } from '../../ui/fields/Choice';
import { FramingGuide } from './FramingGuide';
import { NumberField } from '../../ui/fields/NumberField';

/** The recorder's formats, the best first: what it writes is what the reader decodes. */
const FORMATS = ['video/webm;codecs=vp9', 'video/webm;codecs=vp8', 'video/webm', 'video/mp4'];
const BITS_PER_S = 12_000_000;
const COUNTDOWN_S = 5;

type Rate = '30' | '60' | '120';
type Unit = 's' | 'strokes';
type Phase = { at: 'ready' } | { at: 'counting'; left: number } | { at: 'recording'; doneS: number };

const LENGTH = Joi.number().min(1).max(120).messages({
  'number.min': 'From 1 to 120.',
  'number.max': 'From 1 to 120.',
});
const RPM = Joi.number().min(30).max(180).messages({
  'number.min': 'From 30 to 180 rpm.',
  'number.max': 'From 30 to 180 rpm.',
});

/** Records a take with this device's camera: choice of camera and rate, a framing guide, countdown, self-stop. */
export function RecordHere({ onRecorded }: { onRecorded: (film: Blob, name: string) => Promise<void> }) {
  const [open, setOpen] = useState(false);
  if (typeof navigator === 'undefined' || !navigator.mediaDevices) return null;
  return (
    <>
      <Button variant="outlined" startIcon={<Videocam />} onClick={() => setOpen(true)}>
        Record here…
      </Button>
      {open && (
        <Recorder
          onClose={() => setOpen(false)}
          onRecorded={(film) => {
            setOpen(false);
            const ending = film.type.includes('mp4') ? 'mp4' : 'webm';
            void onRecorded(film, `recorded ${dayjs().format('YYYY-MM-DD HH.mm.ss')}.${ending}`);
          }}
        />
      )}
    </>
  );
}

/** The picture of a camera while it is wanted, and why there is none. @param onUnplugged it went away by itself */
function useCamera(cameraId: string, rate: Rate, onUnplugged: () => void) {
  const [stream, setStream] = useState<MediaStream | null>(null);
  const [cameras, setCameras] = useState<MediaDeviceInfo[]>([]);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [attempt, setAttempt] = useState(0);
  useEffect(() => {
    let current: MediaStream | null = null;
    let ended = false;
    void (async () => {
      try {
        const size = { widthPx: 1920, heightPx: 1080, framesPerS: Number(rate) };
        current = await openCamera(cameraId, size);
        if (ended) {
          current.getTracks().forEach((t) => t.stop());
          return;
        }
        setTrouble(null);
        setStream(current);
        current.getVideoTracks()[0].addEventListener('ended', () => {
          setTrouble('The camera was unplugged or switched off. What was recorded until then is kept.');
          onUnplugged();
          setStream(null);
        });
        const all = await camerasHere();
        if (!ended) setCameras(all);
      } catch (error) {
        if (!ended) setTrouble(cameraTrouble(error));
      }
    })();
    return () => {
      ended = true;
      current?.getTracks().forEach((t) => t.stop());
      setStream(null);
    };
  }, [cameraId, rate, attempt, onUnplugged]);
  const again = (): void => setAttempt(attempt + 1);
  return { stream, cameras, trouble, setTrouble, again };
}

/** Large over the picture, to be read from the bike. */
function Countdown({ children }: { children: ReactNode }) {
  return (
    <Typography
      role="status"
      sx={{
        position: 'absolute',
        inset: 0,
        display: 'grid',
        placeItems: 'center',
        fontSize: '6rem',
        fontWeight: 640,
        color: '#fff',
        textShadow: '0 0 18px #000',
      }}
    >
      {children}
    </Typography>
  );
}

function Recorder({ onClose, onRecorded }: { onClose: () => void; onRecorded: (film: Blob) => void }) {
  const [cameraId, setCameraId] = useState('');
  const [rate, setRate] = useState<Rate>('60');
  const [unit, setUnit] = useState<Unit>('s');
  const [length, setLength] = useState(10);
  const [rpm, setRpm] = useState(90);
  const [phase, setPhase] = useState<Phase>({ at: 'ready' });
  const video = useRef<HTMLVideoElement | null>(null);
  const recorder = useRef<MediaRecorder | null>(null);
  const unplugged = useCallback(() => {
    if (recorder.current?.state === 'recording') recorder.current.stop();
  }, []);
  const { stream, cameras, trouble, setTrouble, again } = useCamera(cameraId, rate, unplugged);

  useEffect(() => {
    if (video.current) video.current.srcObject = stream;
  }, [stream]);

  const lengthS = unit === 's' ? length : Math.ceil((60 * (length + 1)) / rpm);
  const begin = useCallback(() => {
    if (!stream) return;
    const mimeType = FORMATS.find((f) => MediaRecorder.isTypeSupported(f));
    const pieces: Blob[] = [];
    const r = new MediaRecorder(stream, { mimeType, videoBitsPerSecond: BITS_PER_S });
    recorder.current = r;
    r.ondataavailable = (e) => pieces.push(e.data);
    r.onerror = () => setTrouble('The recording failed. Try again, or a lower rate.');
    r.onstop = () => onRecorded(new Blob(pieces, { type: mimeType?.split(';')[0] ?? 'video/webm' }));
    r.start(1000);
    setPhase({ at: 'recording', doneS: 0 });
  }, [stream, onRecorded, setTrouble]);

  // A second at a time: down to the start, then up to the self-stop.
  useEffect(() => {
    if (phase.at === 'ready') return undefined;
    const timer = setTimeout(() => {
      if (phase.at === 'counting') {
        if (phase.left > 1) setPhase({ at: 'counting', left: phase.left - 1 });
        else begin();
      } else if (phase.doneS + 1 >= lengthS) recorder.current?.stop();
      else setPhase({ at: 'recording', doneS: phase.doneS + 1 });
    }, 1000);
    return () => clearTimeout(timer);
  }, [phase, begin, lengthS]);

  const settings = stream?.getVideoTracks()[0]?.getSettings();
  const busy = phase.at !== 'ready';
  return (
    <PageDialog open onClose={() => !busy && onClose()} maxWidth="lg" fullWidth>
      <DialogTitle>Record a take</DialogTitle>
      <DialogContent sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '1fr 270px' }, gap: 2 }}>
        <Box sx={{ position: 'relative', bgcolor: 'ink.faint', aspectRatio: '16 / 9', overflow: 'hidden' }}>
          <video
            ref={video}
            autoPlay
            muted
            playsInline
            aria-label="What the camera sees"
            style={{ width: '100%', height: '100%', objectFit: 'contain', display: 'block' }}
          />
          {stream && <FramingGuide />}
          {busy && (
            <Countdown>
              {phase.at === 'counting' ? phase.left : `${Math.max(0, lengthS - phase.doneS)} s`}
            </Countdown>
          )}
        </Box>
        <Box sx={{ display: 'grid', gap: 1.5, alignContent: 'start' }}>
          {trouble && (
            <Alert
              severity="error"
              variant="outlined"
              action={
                !stream && (
                  <Button size="small" onClick={again}>
                    Try again
                  </Button>
                )
              }
            >
              {trouble}
            </Alert>
          )}
          <WhichCamera cameras={cameras} chosen={cameraId} onChange={setCameraId} />
          <Choice<Rate>
            label="Frames a second"
            options={[
              ['30', '30'],
              ['60', '60'],
              ['120', '120'],
            ]}
            value={rate}
            onChange={(v) => v && setRate(v)}
          />
          {settings && (
            <Typography variant="body2" color="textSecondary">
              The camera gives {settings.width} × {settings.height} px at{' '}
              {settings.frameRate?.toFixed(0) ?? 'an unknown rate of'} frames/s
              {settings.frameRate && settings.frameRate < Number(rate) - 2 ? ', no more' : ''}.
            </Typography>
          )}
          <Choice<Unit>
            label="Length in"
            options={[
              ['s', 'seconds'],
              ['strokes', 'strokes'],
            ]}
            value={unit}
            onChange={(v) => v && setUnit(v)}
          />
          <NumberField
            label={unit === 's' ? 'Seconds' : 'Strokes'}
            unit={unit === 's' ? 's' : ''}
            value={length}
            schema={LENGTH}
            onChange={setLength}
          />
          {unit === 'strokes' && (
            <NumberField label="Cadence" unit="rpm" value={rpm} schema={RPM} onChange={setRpm} />
          )}
        </Box>
      </DialogContent>
      <DialogActions>
        {phase.at === 'recording' ? (
          <Button variant="contained" onClick={() => recorder.current?.stop()}>
            Stop and keep it
          </Button>
        ) : phase.at === 'counting' ? (
          <Button onClick={() => setPhase({ at: 'ready' })}>Not yet</Button>
        ) : (
          <>
            <Button onClick={onClose}>Cancel</Button>
            <Button
              variant="contained"
              disabled={!stream}
              onClick={() => setPhase({ at: 'counting', left: COUNTDOWN_S })}
            >
              Record in {COUNTDOWN_S} s
            </Button>
          </>
        )}
      </DialogActions>
    </PageDialog>
  );
}
