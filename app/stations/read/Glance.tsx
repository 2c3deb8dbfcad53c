import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import FormControlLabel from '@mui/material/FormControlLabel';
import Typography from '@mui/material/Typography';
import { useState, type ReactNode } from 'react';
import type { MeasureReading } from '../../../core/protocol/measures.ts';
import { type MeasureKey } from '../../../core/protocol/protocols.ts';
import { measureName, verdictWords } from '../../../core/protocol/convention.ts';
import { GlanceFigure } from '../../ui/GlanceFigure';
import type { Convention } from '../../ui/words/angleText';
import { useSend } from '../../session/useSend';
import { useStudio } from '../../session/useStudio';

const LEAST = 3;
const MOST = 5;

/** Three to five chosen figures and one chart, over the whole screen: to be read from two metres with tools in the hand. */
export function Glance({
  measures,
  convention,
  chart,
  onClose,
}: {
  measures: readonly MeasureReading[];
  convention: Convention;
  chart: ReactNode;
  onClose: () => void;
}) {
  const { send } = useSend<{ glance: readonly string[] }>('/settings');
  const [choosing, setChoosing] = useState(false);
  const { glance: stored } = useStudio();
  const [glance, setGlance] = useState<readonly string[]>(stored);
  const change = (key: MeasureKey, on: boolean): void => {
    const next = on ? [...glance, key] : glance.filter((k) => k !== key);
    setGlance(next);
    send({ glance: next });
  };
  const shown = measures.filter((m) => glance.includes(m.key));
  return (
    <Dialog open fullScreen onClose={onClose} slotProps={{ paper: { 'aria-label': 'Glance' } }}>
      <Box sx={{ height: '100vh', display: 'flex', flexDirection: 'column', p: { xs: 2, md: 4 }, gap: 2 }}>
        <Box sx={{ display: 'flex', justifyContent: 'flex-end', gap: 1 }}>
          <Button onClick={() => setChoosing(!choosing)}>{choosing ? 'Done' : 'Choose the figures'}</Button>
          <Button variant="contained" onClick={onClose}>
            Back (Esc)
          </Button>
        </Box>
        {choosing && (
          <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fill, minmax(240px, 1fr))' }}>
            {measures.map((m) => (
              <FormControlLabel
                key={m.key}
                control={
                  <Checkbox
                    checked={glance.includes(m.key)}
                    disabled={glance.includes(m.key) ? glance.length <= LEAST : glance.length >= MOST}
                    onChange={(e) => change(m.key, e.target.checked)}
                  />
                }
                label={measureName(m.key, convention)}
              />
            ))}
          </Box>
        )}
        <Box
          sx={{
            display: 'grid',
            gridTemplateColumns: `repeat(auto-fit, minmax(min(100%, ${shown.length > 4 ? 210 : 260}px), 1fr))`,
            gap: 3,
          }}
        >
          {shown.map((m) => (
            <Box key={m.key} data-testid={`glance-${m.key}`}>
              <GlanceFigure
                m={m}
                convention={convention}
                size="clamp(4rem, 9vw, 8.5rem)"
                nameSx={{ fontSize: '1.25rem', minHeight: '2.4em' }}
              />
              <Typography sx={{ fontSize: '1.5rem', fontWeight: m.verdict === 'in' ? 400 : 640 }}>
                {verdictWords(m.key, m.verdict, convention)}
              </Typography>
            </Box>
          ))}
        </Box>
        <Box
          sx={{
            flex: 1,
            minHeight: 0,
            display: 'grid',
            placeItems: 'center',
            '& > *': { width: 'min(100%, 1000px)' },
          }}
        >
          {chart}
        </Box>
      </Box>
    </Dialog>
  );
}
