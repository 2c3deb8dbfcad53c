import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMemo, useRef, useState } from 'react';
import { RAMP_KEYS, readRamp, type RampKey, type RampWay } from '../../../core/kinematics/live/ramp.ts';
import { rampName, rampText } from '../../../core/live/rampWords.ts';
import { openTake, type FitSession } from '../../../core/records/types.ts';
import { readFile } from '../../jobs/files';
import { beginRamp, endRamp, loadFromTable, type LiveNow } from '../../jobs/live';
import { useSet } from '../../session/useSet';
import { useStudio } from '../../session/useStudio';
import { FileField } from '../../ui/fields/FileField';
import { RampChart } from './RampChart';
import type { Devices } from './useDevices';

/** Easy, working, hard: how the figures go with the load and with the minutes. */
export function LiveRamp({
  session,
  live: { phase, turns, load, ramp, nowS, measures },
  devices,
}: {
  session: FitSession;
  live: LiveNow;
  devices: Devices;
}) {
  const { jointConvention } = useStudio();
  const ridden = useMemo(
    () => (ramp ? turns.filter((t) => t.startS >= ramp.fromS && t.endS <= (ramp.toS ?? Infinity)) : []),
    [turns, ramp],
  );
  const read = useMemo(() => readRamp(ridden, load), [ridden, load]);
  const [wanted, setWanted] = useState<RampKey | null>(null);
  const [over, setOver] = useState<RampWay['over']>('power');
  const ways = [read.byPower, read.byMinutes].filter((w) => w !== null);
  const way = ways.find((w) => w.over === over) ?? ways[0];
  const keys = RAMP_KEYS.filter((k) => way?.points[k]);
  const key = keys.find((k) => k === wanted) ?? keys[0];
  const isOn = ramp !== null && ramp.toS === null && phase !== 'off';
  if (phase === 'off' && !ramp) return null;
  return (
    <Box component="section" aria-label="Ramp" sx={{ borderTop: 1, borderColor: 'text.primary', pt: 1.5 }}>
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', flexWrap: 'wrap' }}>
        <Typography variant="h2" sx={{ flex: '1 1 auto' }}>
          Ramp
        </Typography>
        {isOn && (
          <Typography data-testid="ramp-state">
            {((nowS - ramp.fromS) / 60).toFixed(1)} min, {ridden.length} turns
          </Typography>
        )}
        {isOn && <SimulatedLoad devices={devices} />}
        {phase !== 'off' && (
          <Button size="small" variant="outlined" onClick={isOn ? endRamp : beginRamp}>
            {isOn ? 'End the ramp' : ramp ? 'Another ramp' : 'Begin a ramp'}
          </Button>
        )}
      </Box>
      {!ramp && (
        <Typography color="textSecondary">
          Easy, working, hard, about a minute each: what moves as the effort rises. With a trainer against
          watts, without one against minutes.
        </Typography>
      )}
      {ramp && !way && (
        <Typography color="textSecondary">
          The first figures come with two minutes of turns, or as soon as the load has risen by 40 W.
        </Typography>
      )}
      {way && key && (
        <>
          {ways.map((w) => (
            <Typography key={w.over} data-testid={`ramp-${w.over}`} sx={{ mt: 0.5 }}>
              {rampText(w, jointConvention)}
            </Typography>
          ))}
          <Box sx={{ display: 'flex', gap: 1.5, mt: 1.5, flexWrap: 'wrap' }}>
            <TextField
              select
              size="small"
              label="Figure"
              value={key}
              onChange={(e) => setWanted(e.target.value as RampKey)}
              sx={{ minWidth: 220 }}
            >
              {keys.map((k) => (
                <MenuItem key={k} value={k}>
                  {rampName(k, jointConvention)}
                </MenuItem>
              ))}
            </TextField>
            {ways.length > 1 && (
              <TextField
                select
                size="small"
                label="Against"
                value={way.over}
                onChange={(e) => setOver(e.target.value as RampWay['over'])}
              >
                <MenuItem value="power">watts</MenuItem>
                <MenuItem value="minutes">minutes</MenuItem>
              </TextField>
            )}
          </Box>
          <RampChart
            name={rampName(key, jointConvention)}
            of={key}
            way={way}
            band={measures.find((m) => m.key === key)?.band ?? null}
            convention={jointConvention}
          />
        </>
      )}
      {ramp && <RampTools session={session} text={ways.map((w) => rampText(w, jointConvention)).join(' ')} />}
    </Box>
  );
}

const STEP_W = 25;

/** What the simulated trainer asks of the rider. */
function SimulatedLoad({ devices: { on, toggle, live, targetW, ask } }: { devices: Devices }) {
  if (!on)
    return (
      <Button size="small" onClick={toggle}>
        Connect the simulated trainer
      </Button>
    );
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.5 }}>
      <Button size="small" aria-label={`${STEP_W} W less`} onClick={() => ask(Math.max(0, targetW - STEP_W))}>
        −{STEP_W}
      </Button>
      <Typography data-testid="ramp-load">
        <strong>{live ? Math.round(live.powerW) : '–'} W</strong> of {Math.round(targetW)} W asked, simulated
      </Typography>
      <Button size="small" aria-label={`${STEP_W} W more`} onClick={() => ask(targetW + STEP_W)}>
        +{STEP_W}
      </Button>
    </Box>
  );
}

const MOST_NOTE = 2000;

/** The trainer’s own table, and the sentence kept with the take. */
function RampTools({ session, text }: { session: FitSession; text: string }) {
  const { set } = useSet();
  const take = openTake(session);
  const [notice, setNotice] = useState<string | null>(null);
  const file = useRef<HTMLInputElement | null>(null);
  const readTable = async (table: File): Promise<void> => {
    const read = await readFile('trainer', table);
    if (read.ok) loadFromTable(read.samples);
    setNotice(
      read.ok
        ? `${read.samples.length} readings of ${table.name}, from the ramp’s beginning on.`
        : `${table.name}: ${read.message}`,
    );
  };
  const isNoted = Boolean(take && text && take.note.includes(text));
  return (
    <Box sx={{ display: 'flex', gap: 1, mt: 1, alignItems: 'center', flexWrap: 'wrap' }}>
      <Button size="small" variant="outlined" onClick={() => file.current?.click()}>
        Trainer’s table…
      </Button>
      <FileField ref={file} accept=".csv" onFile={(f) => void readTable(f)} testId="ramp-file" />
      <Button
        size="small"
        variant="outlined"
        disabled={!take || !text || isNoted || take.note.length + text.length > MOST_NOTE}
        onClick={() => take && set(`takes.#${take.id}.note`, [take.note, text].filter(Boolean).join('\n'))}
      >
        {isNoted ? 'Noted with the take' : 'Note it with the take'}
      </Button>
      {notice && (
        <Typography variant="body2" role="status">
          {notice}
        </Typography>
      )}
    </Box>
  );
}
