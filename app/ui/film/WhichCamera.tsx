import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';

/** The device's cameras by name, where there are any. */
export function WhichCamera({
  cameras,
  chosen,
  onChange,
}: {
  cameras: readonly MediaDeviceInfo[];
  chosen: string;
  onChange: (id: string) => void;
}) {
  if (cameras.length === 0) return null;
  return (
    <TextField
      select
      size="small"
      label="Camera"
      value={chosen || cameras[0].deviceId}
      onChange={(e) => onChange(e.target.value)}
      sx={{ mt: 1, minWidth: 200 }}
    >
      {cameras.map((c, k) => (
        <MenuItem key={c.deviceId} value={c.deviceId}>
          {c.label || `Camera ${k + 1}`}
        </MenuItem>
      ))}
    </TextField>
  );
}
