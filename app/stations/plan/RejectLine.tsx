import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';

/** Why a line is left: the next round keeps it so, and will want to know. */
export function RejectLine({
  onCancel,
  onReject,
}: {
  onCancel: () => void;
  onReject: (reason: string) => void;
}) {
  const [reason, setReason] = useState('');
  const [missing, setMissing] = useState(false);
  const go = (): void => (reason.trim() ? onReject(reason.trim()) : setMissing(true));
  return (
    <Box sx={{ border: 1, borderColor: 'divider', p: 1.5, mt: 1, display: 'flex', gap: 1, flexWrap: 'wrap' }}>
      <TextField
        label="Why not"
        size="small"
        autoFocus
        value={reason}
        onChange={(e) => {
          setReason(e.target.value);
          setMissing(false);
        }}
        onKeyDown={(e) => e.key === 'Enter' && go()}
        error={missing}
        helperText={missing ? 'A word or two: the next visit will want to know.' : undefined}
        slotProps={{ htmlInput: { maxLength: 500 } }}
        sx={{ flex: 1, minWidth: 220 }}
      />
      <Button variant="contained" onClick={go}>
        Reject it
      </Button>
      <Button onClick={onCancel}>Cancel</Button>
    </Box>
  );
}
