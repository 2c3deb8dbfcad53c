import Delete from '@mui/icons-material/DeleteOutlined';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { DataGrid, GridActionsCellItem, type GridColDef } from '@mui/x-data-grid';
import { nanoid } from 'nanoid';
import { useContext, useEffect, useMemo, useRef, useState } from 'react';
import { data } from 'react-router';
import { useStudio } from '../../session/useStudio';
import { PART_KINDS, PART_NUMBERS, UNMEASURED_PART, type Part } from '../../../core/bike/parts.ts';
import { writePartsCsv } from '../../../core/formats/partsCsv.ts';
import { partSchema } from '../../../core/records/schemas.ts';
import { download } from '../../ui/download';
import { answering } from '../../session/answering';
import { useSend } from '../../session/useSend';
import { RouteTrouble } from '../../ui/RouteTrouble';
import { TopBar } from '../../ui/TopBar';
import { CATALOGUE } from '../../demo/catalogue';
import { NonceContext } from '../../nonce';
import { seedDemo } from '../../storage/demo';
import { loadParts, saveParts } from '../../storage/parts';
import type { Route } from './+types/parts';
import { readFile } from '../../jobs/files';
import { FileField } from '../../ui/fields/FileField';
import { TRASH_DAYS } from '../../../core/visit/visits.ts';
import { notify } from '../../session/notices';

export const meta: Route.MetaFunction = () => [{ title: 'Parts bin · Deep Angle' }];

export async function clientLoader(): Promise<{ parts: Part[] }> {
  await seedDemo(CATALOGUE);
  const stored = await loadParts();
  if (!stored.ok) throw data(stored.message, { status: 409 });
  return { parts: stored.value.parts };
}

/** A list as it was left, and as it was seen before: what another tab did meanwhile stands. */
interface Sent {
  to: Part[];
  from: Part[];
}

export const clientAction = answering(async ({ request }: Route.ClientActionArgs) => {
  const { to, from } = (await request.json()) as Sent;
  const saved = await saveParts(to, from);
  return saved.ok ? null : { message: saved.message };
});

const HEADS: Record<(typeof PART_NUMBERS)[number]['key'], string> = {
  lengthMm: 'Length, mm',
  angleDeg: 'Angle, °',
  widthMm: 'Width, mm',
  reachMm: 'Reach, mm',
  dropMm: 'Drop, mm',
  stackMm: 'Stack, mm',
  price: 'Price',
};

/** What a part can't be, in the table's own words. */
function whyNot(part: Part): string | null {
  if (part.name === '') return 'it needs a name.';
  const wrong = PART_NUMBERS.find(({ key, min, max }) => {
    const v = part[key];
    return v !== null && !(v >= min && v <= max);
  });
  if (wrong) return `${HEADS[wrong.key]} is from ${wrong.min} to ${wrong.max}.`;
  return Number.isInteger(part.count) ? null : 'Count is a whole number.';
}

export default function Parts({ loaderData }: Route.ComponentProps) {
  const { fetcher, send } = useSend<Sent>();
  const { currency } = useStudio();
  const nonce = useContext(NonceContext);
  const input = useRef<HTMLInputElement | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  // What was sent stands at once; the store's answer follows.
  const parts = (fetcher.json as unknown as Sent | undefined)?.to ?? loaderData.parts;
  const store = (next: Part[]): void => send({ to: next, from: parts });
  const remove = (id: string): void => {
    const k = parts.findIndex((p) => p.id === id);
    const without = parts.toSpliced(k, 1);
    store(without);
    notify(`“${parts[k].name}” removed. It stays in the trash for ${TRASH_DAYS} days.`, () =>
      send({ to: parts, from: without }),
    );
  };
  const removeRef = useRef(remove);
  useEffect(() => {
    removeRef.current = remove;
  });
  const columns = useMemo<GridColDef<Part>[]>(
    () => [
      {
        field: 'kind',
        headerName: 'Kind',
        width: 100,
        editable: true,
        type: 'singleSelect',
        valueOptions: [...PART_KINDS],
      },
      { field: 'name', headerName: 'Name', flex: 1, minWidth: 180, editable: true },
      ...PART_NUMBERS.map(({ key }): GridColDef<Part> => ({
        field: key,
        headerName: key === 'price' ? `Price, ${currency}` : HEADS[key],
        width: 104,
        editable: true,
        type: 'number',
      })),
      { field: 'count', headerName: 'Count', width: 80, editable: true, type: 'number' },
      {
        field: 'actions',
        type: 'actions',
        headerName: 'Delete',
        width: 72,
        getActions: ({ row }) => [
          <GridActionsCellItem
            key="remove"
            icon={<Delete />}
            label={`Remove ${row.name}`}
            onClick={() => removeRef.current(row.id)}
          />,
        ],
      },
    ],
    [currency],
  );
  const readIn = async (file: File): Promise<void> => {
    const read = await readFile('parts', file);
    if (!read.ok) {
      setTrouble(`${file.name}: ${read.message}`);
      return;
    }
    setTrouble(null);
    store([...parts, ...read.parts]);
  };
  const add = (): void =>
    store([
      {
        id: nanoid(),
        kind: 'stem',
        name: 'New part',
        ...UNMEASURED_PART,
      },
      ...parts,
    ]);
  return (
    <Box sx={{ height: '100vh', display: 'flex', flexDirection: 'column' }}>
      <TopBar>
        <Typography color="textSecondary">Parts bin</Typography>
      </TopBar>
      <Box
        component="main"
        sx={{
          flex: 1,
          minHeight: 0,
          p: { xs: 2, md: 3 },
          display: 'flex',
          flexDirection: 'column',
          gap: 1.5,
        }}
      >
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
          <Typography variant="h1" sx={{ flex: 1 }}>
            Parts bin
          </Typography>
          <Button variant="outlined" onClick={add}>
            Add a part
          </Button>
          <Button onClick={() => input.current?.click()}>Import (CSV)…</Button>
          <Button onClick={() => download('parts.csv', writePartsCsv(parts), 'text/csv')}>Save (CSV)</Button>
        </Box>
        <FileField
          ref={input}
          accept=".csv,text/csv"
          testId="parts-file"
          onFile={(file) => void readIn(file)}
        />
        {(trouble ?? fetcher.data?.message) && (
          <Alert severity="error">{trouble ?? fetcher.data?.message}</Alert>
        )}
        <Box sx={{ flex: 1, minHeight: 300 }}>
          <DataGrid
            rows={parts}
            columns={columns}
            nonce={nonce}
            density="compact"
            hideFooter={parts.length <= 100}
            disableRowSelectionOnClick
            processRowUpdate={(row: Part) => {
              const clean: Part = { ...row, name: row.name.trim() };
              for (const { key } of PART_NUMBERS)
                if ((clean[key] as unknown) === undefined) clean[key] = null;
              const { error } = partSchema.validate(clean, { convert: false });
              if (error) throw new Error(`${clean.name || 'This part'}: ${whyNot(clean) ?? error.message}`);
              setTrouble(null);
              store(parts.map((p) => (p.id === clean.id ? clean : p)));
              return clean;
            }}
            onProcessRowUpdateError={(error: Error) => setTrouble(error.message)}
            localeText={{ noRowsLabel: 'The parts bin is empty: add a part, or read a table in.' }}
          />
        </Box>
      </Box>
    </Box>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return <RouteTrouble error={error} bare />;
}
