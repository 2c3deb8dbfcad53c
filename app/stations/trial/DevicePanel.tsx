import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useRef, useState } from 'react';
import { writeMatCsv, writeTrainerCsv } from '../../../core/formats/devicesCsv.ts';
import { openTake, type FitSession } from '../../../core/records/types.ts';
import {
  loadOf,
  summariseMat,
  summariseTrainer,
  type TakeDevices,
} from '../../../core/kinematics/devices.ts';
import { readFile } from '../../jobs/files';
import { Sheet } from '../../ui/Desk';
import { download } from '../../ui/download';
import { Figure } from '../../ui/Figure';
import { MatDrawing } from './MatDrawing';
import { takeText } from '../../ui/words/takeWords';
import type { Devices } from './useDevices';
import { useSet } from '../../session/useSet';
import { FileField } from '../../ui/fields/FileField';

/** Trainer and pressure mat: connected as simulated stand-ins, or read from their tables; what they tell joins the open take. */
export function DevicePanel({ session, devices }: { session: FitSession; devices: Devices }) {
  const { set } = useSet();
  const take = openTake(session);
  const [message, setMessage] = useState<{ ok: boolean; text: string } | null>(null);
  const trainerFile = useRef<HTMLInputElement | null>(null);
  const matFile = useRef<HTMLInputElement | null>(null);
  const { live, mat } = devices;
  const load = mat && loadOf(mat.gridKPa);
  const keep = (part: Partial<TakeDevices>, text: string): void => {
    if (!take) {
      setMessage({
        ok: false,
        text: 'There is no take in this visit for it to join: bring a film in first.',
      });
      return;
    }
    set(`takes.#${take.id}.devices`, { ...take.devices, ...part });
    setMessage({ ok: true, text });
  };
  const readTrainer = async (file: File): Promise<void> => {
    const read = await readFile('trainer', file);
    if (!read.ok) setMessage({ ok: false, text: `${file.name}: ${read.message}` });
    else
      keep(
        { trainer: summariseTrainer(read.samples, file.name.slice(0, 300)) },
        `${read.samples.length} readings of the trainer joined the take.`,
      );
  };
  const readMat = async (file: File): Promise<void> => {
    const read = await readFile('mat', file);
    const summary = read.ok ? summariseMat(read.frames, read.cellMm, file.name.slice(0, 300)) : null;
    if (!read.ok) setMessage({ ok: false, text: `${file.name}: ${read.message}` });
    else if (!summary) setMessage({ ok: false, text: `${file.name}: nobody sits on the mat in it.` });
    else keep({ mat: summary }, `${read.frames.length} readings of the mat joined the take.`);
  };
  return (
    <Box
      sx={{
        p: { xs: 2, md: 3 },
        maxWidth: { xs: 1280, xl: 1640 },
        mx: 'auto',
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: '1fr 1fr' },
        gap: 4,
      }}
    >
      <Box>
        <Sheet title="Live" note="simulated: they ride as this rider does">
          <Box sx={{ display: 'flex', gap: 1, mb: 2, flexWrap: 'wrap' }}>
            <Button variant="outlined" onClick={devices.toggle}>
              {devices.on ? 'Disconnect' : 'Connect the simulated trainer and mat'}
            </Button>
            {devices.on && devices.seconds >= 3 && (
              <Button
                variant="contained"
                onClick={() => {
                  const all = devices.summary();
                  if (all) keep(all, 'The last seconds’ means joined the take.');
                }}
              >
                Keep with the take
              </Button>
            )}
          </Box>
          {live ? (
            <Box sx={{ display: 'flex', gap: 4, flexWrap: 'wrap' }}>
              <Figure name="Power" value={`${Math.round(live.powerW)} W`} plusMinus="" testId="live-power" />
              <Figure name="Cadence" value={`${Math.round(live.cadenceRpm)} rpm`} plusMinus="" />
              {live.leftPercent !== null && (
                <Figure name="Left leg" value={`${live.leftPercent.toFixed(1)} %`} plusMinus="of the power" />
              )}
            </Box>
          ) : (
            <Typography color="textSecondary">Nothing is connected.</Typography>
          )}
          {mat && load && (
            <Box sx={{ mt: 2 }}>
              <MatDrawing gridKPa={mat.gridKPa} label="Pressure on the saddle now" />
              <Typography sx={{ mt: 0.5 }}>
                Left {load.leftPercent.toFixed(0)} %, front {load.frontPercent.toFixed(0)} %, peak{' '}
                {load.peakKPa.toFixed(0)} kPa
              </Typography>
            </Box>
          )}
        </Sheet>
      </Box>
      <Box>
        <Sheet title="With the take" note={take ? takeText(take) : 'no take yet'}>
          {message && (
            <Alert
              severity={message.ok ? 'success' : 'error'}
              variant="outlined"
              sx={{ mb: 1.5 }}
              onClose={() => setMessage(null)}
            >
              {message.text}
            </Alert>
          )}
          <Kept devices={take?.devices ?? null} />
          <Box sx={{ display: 'flex', gap: 1, mt: 2, flexWrap: 'wrap' }}>
            <Button variant="outlined" onClick={() => trainerFile.current?.click()}>
              Import a trainer’s table…
            </Button>
            <Button variant="outlined" onClick={() => matFile.current?.click()}>
              Import a mat’s table…
            </Button>
            {devices.seconds > 0 && (
              <>
                <Button
                  onClick={() =>
                    download('trainer.csv', writeTrainerCsv(devices.trainerSamples()), 'text/csv')
                  }
                >
                  Trainer as CSV
                </Button>
                <Button
                  onClick={() =>
                    download('mat.csv', writeMatCsv(devices.matFrames(), devices.cellMm), 'text/csv')
                  }
                >
                  Mat as CSV
                </Button>
              </>
            )}
          </Box>
          <Typography variant="body2" color="textSecondary" sx={{ mt: 1 }}>
            Tables are CSV: t_s, power_w, cadence_rpm, left_percent; and t_s, cell_mm, r1c1_kpa, r1c2_kpa and
            so on, rows from the saddle’s nose back.
          </Typography>
        </Sheet>
      </Box>
      {(
        [
          [trainerFile, readTrainer, 'trainer-file'],
          [matFile, readMat, 'mat-file'],
        ] as const
      ).map(([ref, read, testId]) => (
        <FileField
          key={testId}
          ref={ref}
          accept=".csv,text/csv"
          testId={testId}
          onFile={(file) => void read(file)}
        />
      ))}
    </Box>
  );
}

/** What is kept with a take of both. */
function Kept({ devices }: { devices: TakeDevices | null }) {
  if (!devices?.trainer && !devices?.mat)
    return <Typography color="textSecondary">Neither trainer nor mat was read for this take.</Typography>;
  const { trainer, mat } = devices;
  return (
    <>
      {trainer && (
        <Typography data-testid="take-trainer">
          Trainer: <strong>{Math.round(trainer.powerW)} W</strong>, {Math.round(trainer.cadenceRpm)} rpm
          {trainer.leftPercent !== null && `, left leg ${trainer.leftPercent.toFixed(1)} %`} ({trainer.source}
          , {Math.round(trainer.seconds)} s)
        </Typography>
      )}
      {mat && (
        <Box sx={{ mt: 1 }}>
          <Typography data-testid="take-mat">
            Mat: left <strong>{mat.leftPercent.toFixed(0)} %</strong>, front {mat.frontPercent.toFixed(0)} %,
            peak {mat.peakKPa.toFixed(0)} kPa ({mat.source}, {Math.round(mat.seconds)} s)
          </Typography>
          <MatDrawing gridKPa={mat.gridKPa} label="Mean pressure on the saddle with this take" />
        </Box>
      )}
    </>
  );
}
