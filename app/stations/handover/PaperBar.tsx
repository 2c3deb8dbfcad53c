import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { PAPERS, type Paper } from '../../../core/records/handOver.ts';
import { Choice } from '../../ui/fields/Choice';
import { download } from '../../ui/download';
import type { PaperState } from './usePaper';
import { ShareFile } from '../../ui/ShareFile';
import { useSession } from '../session';
import { useSet } from '../../session/useSet';

const NAMES: Record<Paper, string> = { A4: 'A4', LETTER: 'Letter' };

/** Paper size and Save, over a preview. */
export function PaperBar({ paper, state, name }: { paper: Paper; state: PaperState; name: string }) {
  const { set } = useSet();
  const { rider } = useSession();
  return (
    <Box sx={{ mb: 1.5 }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap' }}>
        <Choice
          label="Paper"
          hideLabel
          options={PAPERS.map((p) => [p, NAMES[p]] as const)}
          value={paper}
          onChange={(v) => v && set('handOver.paper', v)}
        />
        <Button
          variant="contained"
          disabled={!state.blob || state.making}
          onClick={() => state.blob && download(name, state.blob)}
        >
          Save as PDF
        </Button>
        <ShareFile
          name={name}
          blob={state.making ? null : state.blob}
          subject={name.replace(/-/g, ' ').replace(/\.pdf$/, '')}
          email={rider?.email ?? ''}
        />
        {state.making && (
          <Typography variant="body2" color="textSecondary" role="status">
            Being made…
          </Typography>
        )}
      </Box>
      {state.trouble && (
        <Alert severity="error" sx={{ mt: 1 }}>
          {state.trouble}
        </Alert>
      )}
    </Box>
  );
}

/** A file's name from words: nothing but letters, figures and dashes. */
export const fileName = (...words: string[]): string =>
  words
    .map((w) => w.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, ''))
    .filter(Boolean)
    .join('-');
