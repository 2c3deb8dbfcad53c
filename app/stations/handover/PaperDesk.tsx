import Box from '@mui/material/Box';
import type { ReactNode } from 'react';
import type { Paper } from '../../../core/records/handOver.ts';
import { PaperBar } from './PaperBar';
import { PdfPreview } from './PdfPreview';
import type { PaperState } from './usePaper';

/** What goes on a paper on the left, the paper as it will be saved on the right. */
export function PaperDesk({
  paper,
  state,
  name,
  label,
  children,
}: {
  paper: Paper;
  state: PaperState;
  /** The file's. */
  name: string;
  label: string;
  children: ReactNode;
}) {
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: 'minmax(0, 1fr)', md: 'minmax(0, 1fr) minmax(0, 1fr)' },
        gap: 4,
        p: { xs: 2, md: 3 },
        maxWidth: 1320,
        mx: 'auto',
      }}
    >
      <Box sx={{ minWidth: 0 }}>{children}</Box>
      <Box sx={{ minWidth: 0 }}>
        <PaperBar paper={paper} state={state} name={name} />
        <PdfPreview blob={state.blob} label={label} />
      </Box>
    </Box>
  );
}
