import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import {
  MEASURE_KEYS,
  MEASURE_NAMES,
  MEASURE_REASONS,
  type MeasureKey,
  type Protocol,
} from '../../../core/protocol/protocols.ts';
import { bandsApart } from '../../../core/protocol/shelf.ts';
import { protocolSchema } from '../../../core/records/schemas.ts';
import { dayText } from '../../ui/words/dates';
import { bandText } from '../../ui/words/bandText';

const unitOf = (key: MeasureKey): '°' | 'mm' => (key.endsWith('Mm') ? 'mm' : '°');

/** What was typed into the table: kept as text until it is kept as a version. */
type Typed = Record<MeasureKey, { low: string; high: string; reason: string }>;

const typedOf = (p: Protocol): Typed =>
  Object.fromEntries(
    MEASURE_KEYS.map((key) => {
      const { low, high } = p.bands[key];
      const text = (v: number | null): string => (v === null ? '' : String(v).replace('-', '−'));
      return [key, { low: text(low), high: text(high), reason: p.reasons[key] ?? '' }];
    }),
  ) as Typed;

/** A typed end: empty is open; NaN is no number. */
const endOf = (text: string): number | null =>
  text.trim() === '' ? null : Number(text.trim().replace('−', '-').replace(',', '.'));

const headOf = ({ name, position, reason, source }: Protocol) => ({ name, position, reason, source });

/** What is wrong with a band as it is typed; null when nothing is. */
function wrongBand({ low, high }: { low: string; high: string }): string | null {
  const [a, b] = [endOf(low), endOf(high)];
  if (Number.isNaN(a) || Number.isNaN(b)) return 'Type a number, or leave it empty: then that side is open.';
  if (a !== null && b !== null && a > b) return 'The lower end lies above the upper one.';
  if ([a, b].some((v) => v !== null && Math.abs(v) > 500)) return 'From −500 to 500.';
  return null;
}

/** One measure's band as it is typed, with why it is so. */
function BandRow({
  of: key,
  typed,
  wrong,
  other,
  onChange,
}: {
  of: MeasureKey;
  typed: Typed[MeasureKey];
  wrong: string | null;
  /** The same band of the protocol that it is compared with. */
  other: { band: Protocol['bands'][MeasureKey]; differs: boolean } | null;
  onChange: (at: keyof Typed[MeasureKey], value: string) => void;
}) {
  const unit = unitOf(key);
  return (
    <TableRow data-testid={`band-${key}`}>
      <TableCell sx={{ minWidth: 180 }}>
        {MEASURE_NAMES[key]}, {unit}
        {wrong && (
          <Typography variant="body2" color="error" role="alert">
            {wrong}
          </Typography>
        )}
      </TableCell>
      {(['low', 'high'] as const).map((end) => (
        <TableCell key={end} sx={{ width: 92 }}>
          <TextField
            size="small"
            value={typed[end]}
            error={wrong !== null}
            placeholder="open"
            onChange={(e) => onChange(end, e.target.value)}
            slotProps={{
              htmlInput: {
                'aria-label': `${MEASURE_NAMES[key]}, ${end === 'low' ? 'from' : 'to'}`,
                inputMode: 'decimal',
              },
            }}
          />
        </TableCell>
      ))}
      {other && (
        <TableCell sx={{ minWidth: 120, fontWeight: other.differs ? 640 : 400 }}>
          {other.band.low === null && other.band.high === null ? 'open' : bandText(other.band, unit)}
          {other.differs ? '' : ', the same'}
        </TableCell>
      )}
      <TableCell sx={{ minWidth: 260 }}>
        <TextField
          size="small"
          fullWidth
          multiline
          value={typed.reason}
          placeholder={MEASURE_REASONS[key]}
          onChange={(e) => onChange('reason', e.target.value)}
          slotProps={{
            htmlInput: { 'aria-label': `${MEASURE_NAMES[key]}, why`, maxLength: 1000 },
          }}
        />
      </TableCell>
    </TableRow>
  );
}

/** A protocol as a table to be changed; nothing counts until it is kept as the next version. */
export function ProtocolTable({
  protocol,
  all,
  onKeep,
}: {
  protocol: Protocol;
  /** Every version of every protocol, to compare it with. */
  all: readonly Protocol[];
  onKeep: (changed: Protocol) => void;
}) {
  const [head, setHead] = useState(() => headOf(protocol));
  const [typed, setTyped] = useState<Typed>(() => typedOf(protocol));
  const [comparedKey, setComparedKey] = useState('');
  const [trouble, setTrouble] = useState<string | null>(null);
  const compared = all.find((p) => `${p.id}@${p.revision}` === comparedKey) ?? null;
  const wrong = Object.fromEntries(MEASURE_KEYS.map((k) => [k, wrongBand(typed[k])])) as Record<
    MeasureKey,
    string | null
  >;
  const changed: Protocol = {
    ...protocol,
    ...head,
    bands: Object.fromEntries(
      MEASURE_KEYS.map((k) => [k, { low: endOf(typed[k].low), high: endOf(typed[k].high) }]),
    ) as Protocol['bands'],
    reasons: Object.fromEntries(
      MEASURE_KEYS.flatMap((k) => (typed[k].reason.trim() ? [[k, typed[k].reason.trim()]] : [])),
    ),
  };
  const dirty =
    bandsApart(protocol, changed).length > 0 ||
    JSON.stringify(protocol.reasons) !== JSON.stringify(changed.reasons) ||
    (Object.keys(head) as (keyof typeof head)[]).some((k) => head[k] !== protocol[k]);
  const anyWrong = MEASURE_KEYS.some((k) => wrong[k]);
  const keep = (): void => {
    const { error } = protocolSchema.validate({ ...changed, name: changed.name.trim() }, { convert: false });
    if (error) setTrouble(changed.name.trim() === '' ? 'A protocol needs a name.' : error.message);
    else onKeep({ ...changed, name: changed.name.trim() });
  };
  const apart = compared ? new Set(bandsApart(changed, compared)) : null;
  const put = (key: MeasureKey, at: keyof Typed[MeasureKey], value: string): void =>
    setTyped({ ...typed, [key]: { ...typed[key], [at]: value } });
  return (
    <Box component="section" aria-label={protocol.name}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap', mb: 2 }}>
        <Typography variant="h2" component="h2" sx={{ flex: 1 }}>
          {protocol.name}
          <Typography component="span" color="textSecondary" sx={{ ml: 1.5 }}>
            version {protocol.revision}, {dayText(protocol.date)}
          </Typography>
        </Typography>
        <TextField
          select
          size="small"
          label="Compare with"
          value={comparedKey}
          onChange={(e) => setComparedKey(e.target.value)}
          sx={{ minWidth: 220 }}
        >
          <MenuItem value="">nothing</MenuItem>
          {all
            .filter((p) => p !== protocol)
            .map((p) => (
              <MenuItem key={`${p.id}@${p.revision}`} value={`${p.id}@${p.revision}`}>
                {p.name}, version {p.revision}
              </MenuItem>
            ))}
        </TextField>
        <Button variant="contained" disabled={!dirty || anyWrong} onClick={keep}>
          Keep as a new version
        </Button>
        {dirty && (
          <Button
            onClick={() => {
              setHead(headOf(protocol));
              setTyped(typedOf(protocol));
              setTrouble(null);
            }}
          >
            Discard changes
          </Button>
        )}
      </Box>
      {trouble && (
        <Alert severity="error" sx={{ mb: 2 }}>
          {trouble}
        </Alert>
      )}
      <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' }, gap: 1.5, mb: 2 }}>
        {(
          [
            ['name', 'Name', 120],
            ['position', 'Hand position', 120],
            ['reason', 'Reason', 2000],
            ['source', 'Source', 2000],
          ] as const
        ).map(([key, label, most]) => (
          <TextField
            key={key}
            size="small"
            label={label}
            multiline={most > 200}
            value={head[key]}
            onChange={(e) => setHead({ ...head, [key]: e.target.value })}
            slotProps={{ htmlInput: { maxLength: most } }}
          />
        ))}
      </Box>
      {compared && (
        <Typography sx={{ mb: 1 }} role="status">
          {apart!.size === 0
            ? `No band differs from “${compared.name}”, version ${compared.revision}.`
            : `${apart!.size} of ${MEASURE_KEYS.length} bands differ from “${compared.name}”, version ${compared.revision}.`}
        </Typography>
      )}
      <Box sx={{ overflowX: 'auto' }}>
        <Table size="small" aria-label="Bands" sx={{ '& td, & th': { px: 1 } }}>
          <TableHead>
            <TableRow>
              <TableCell>Measure</TableCell>
              <TableCell>from</TableCell>
              <TableCell>to</TableCell>
              {compared && <TableCell>there</TableCell>}
              <TableCell>why</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {MEASURE_KEYS.map((key) => (
              <BandRow
                key={key}
                of={key}
                typed={typed[key]}
                wrong={wrong[key]}
                other={compared && { band: compared.bands[key], differs: apart!.has(key) }}
                onChange={(at, value) => put(key, at, value)}
              />
            ))}
          </TableBody>
        </Table>
      </Box>
    </Box>
  );
}
