import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { RiderWord } from '../../../core/plan/terms/change.ts';
import { Key } from '../../ui/Key';

const WORDS: readonly (readonly [RiderWord, string, string])[] = [
  ['better', 'Better', 'B'],
  ['same', 'The same', 'S'],
  ['worse', 'Worse', 'W'],
];

/** What the rider says of the change that is on the bike, or the change undone; each with its key. */
export function WordButtons({ onWord, onUndo }: { onWord: (word: RiderWord) => void; onUndo: () => void }) {
  return (
    <Box sx={{ display: 'flex', gap: 1, mt: 1.5, flexWrap: 'wrap' }}>
      {WORDS.map(([word, text, key]) => (
        <Button
          key={word}
          variant="outlined"
          size="large"
          onClick={() => onWord(word)}
          sx={{ minHeight: 56, minWidth: 130, fontSize: '1.05rem' }}
        >
          {text}&nbsp;<Key>{key}</Key>
        </Button>
      ))}
      <Box sx={{ flex: 1 }} />
      <Button onClick={onUndo}>
        Undo this step&nbsp;<Key>U</Key>
      </Button>
    </Box>
  );
}
