import Button from '@mui/material/Button';

/** Opens all folded parts of a page, or folds them again. */
export function ShowAll({
  all,
  isOpen,
  unfold,
}: {
  all: readonly string[];
  isOpen: (part: string) => boolean;
  unfold: (parts: readonly string[], open: boolean) => void;
}) {
  const whole = all.every(isOpen);
  return (
    <Button sx={{ mt: 2 }} onClick={() => unfold(all, !whole)}>
      {whole ? 'Show the essentials only' : 'Show everything'}
    </Button>
  );
}
