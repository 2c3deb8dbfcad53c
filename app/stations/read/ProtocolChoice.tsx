import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { Link } from 'react-router';
import { asKept, protocolUsed } from '../../../core/protocol/shelf.ts';
import type { FitSession } from '../../../core/records/types.ts';
import { useSession } from '../session';
import { dayText } from '../../ui/words/dates';
import { useEdit } from '../../session/useEdit';

/** Which protocol this visit is judged by; a newer version of it is offered, never slipped in. */
export function ProtocolChoice({ session }: { session: FitSession }) {
  const { edit } = useEdit();
  const { protocols } = useSession();
  const used = protocolUsed(session);
  const newest = protocols.find((p) => p.id === used.id);
  const behind = newest && newest.revision > used.revision ? newest : null;
  const all = newest ? protocols : [used, ...protocols];
  const choose = (id: string): void => {
    const chosen = protocols.find((p) => p.id === id);
    if (chosen) void edit({ kind: 'protocol', ...asKept(chosen) });
  };
  return (
    <Box sx={{ my: 1, display: 'grid', gap: 1 }}>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <TextField
          select
          size="small"
          label="Judged by"
          value={used.id}
          onChange={(e) => choose(e.target.value)}
          sx={{ flex: 1 }}
          slotProps={{ htmlInput: { 'data-testid': 'protocol' } }}
        >
          {all.map((p) => (
            <MenuItem key={p.id} value={p.id}>
              {p.name}
            </MenuItem>
          ))}
        </TextField>
        <Button size="small" component={Link} to={`/protocols/${used.id}`}>
          See its bands
        </Button>
      </Box>
      <Typography variant="body2" color="textSecondary">
        Version {used.revision}, {dayText(used.date)}. {used.reason}
      </Typography>
      {behind && (
        <Alert
          severity="info"
          variant="outlined"
          action={
            <Button size="small" onClick={() => choose(behind.id)}>
              Use version {behind.revision}
            </Button>
          }
        >
          This visit keeps version {used.revision}; the studio has {behind.revision} by now.
        </Alert>
      )}
    </Box>
  );
}
