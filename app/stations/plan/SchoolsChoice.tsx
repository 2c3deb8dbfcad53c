import Box from '@mui/material/Box';
import type { Schools } from '../../../core/plan/terms/schools.ts';
import { Choice } from '../../ui/fields/Choice';

/** Where schools differ, the fitter picks; the prescription follows at once. */
export function SchoolsChoice({ schools, onChange }: { schools: Schools; onChange: (s: Schools) => void }) {
  const set = <K extends keyof Schools>(key: K, v: Schools[K] | null): void => {
    if (v) onChange({ ...schools, [key]: v });
  };
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      <Choice
        label="Knee bend by"
        options={[
          ['dynamic', 'the film'],
          ['static', 'the goniometer'],
        ]}
        value={schools.knee}
        onChange={(v) => set('knee', v)}
      />
      <Choice
        label="Saddle fore-aft by"
        options={[
          ['plumb', 'plumb line'],
          ['balance', 'balance'],
        ]}
        value={schools.foreAft}
        onChange={(v) => set('foreAft', v)}
      />
      <Choice
        label="Spindle and first metatarsal head"
        options={[
          ['level', 'level'],
          ['between', 'between'],
          ['behind', '10 mm behind'],
          ['midfoot', 'mid-foot'],
        ]}
        value={schools.cleat}
        onChange={(v) => set('cleat', v)}
      />
      <Choice
        label="Knee path from ahead"
        options={[
          ['stance', 'stance first'],
          ['wedge', 'wedge'],
        ]}
        value={schools.kneePath}
        onChange={(v) => set('kneePath', v)}
      />
      <Choice
        label="Saddle width by"
        options={[
          ['support', 'flat part'],
          ['overall', 'overall width'],
        ]}
        value={schools.saddleWidth}
        onChange={(v) => set('saddleWidth', v)}
      />
    </Box>
  );
}
