import Close from '@mui/icons-material/Close';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import Typography from '@mui/material/Typography';
import { useRef, useState, type ReactNode } from 'react';
import type { ParsedCurves } from '../../../core/formats/angles.ts';
import { Dash } from '../../charts/StrokeChart';
import { FileField } from '../../ui/fields/FileField';

/** Curves read in from a file, to be seen beside what is read here; for as long as the page stands. */
export type ComparedTable<Key extends string> = Extract<ParsedCurves<Key>, { ok: true }> & { name: string };

export interface Compared<Key extends string> {
  tables: readonly ComparedTable<Key>[];
  trouble: string | null;
  lay: (file: File) => Promise<void>;
  takeOff: (index: number) => void;
  /** The trouble has been read. */
  forget: () => void;
}

/** Keeps the tables that were added for comparison, and says what is wrong with one that can't be. */
export function useComparedTables<Key extends string>(
  read: (file: File) => Promise<ParsedCurves<Key>>,
): Compared<Key> {
  const [tables, setTables] = useState<readonly ComparedTable<Key>[]>([]);
  const [trouble, setTrouble] = useState<string | null>(null);
  return {
    tables,
    trouble,
    lay: async (file) => {
      const parsed = await read(file);
      setTrouble(parsed.ok ? null : `${file.name}: ${parsed.message}`);
      if (parsed.ok) setTables((now) => [...now, { ...parsed, name: file.name }]);
    },
    forget: () => setTrouble(null),
    takeOff: (index) => setTables((now) => now.filter((_, i) => i !== index)),
  };
}

/**
 * The button that adds a table for comparison, and those that lie there.
 * @param firstDash how many other curves are in the chart already  @param full no more curves can be distinguished
 */
export function ComparedTables<Key extends string>({
  compared,
  what,
  firstDash,
  full,
  children,
}: {
  compared: Compared<Key>;
  what: string;
  firstDash: number;
  full: boolean;
  children: (table: ComparedTable<Key>) => ReactNode;
}) {
  const input = useRef<HTMLInputElement | null>(null);
  return (
    <Box sx={{ mt: 1 }}>
      {compared.trouble && (
        <Alert severity="error" variant="outlined" sx={{ mb: 1 }} onClose={compared.forget}>
          {compared.trouble}
        </Alert>
      )}
      {compared.tables.map((table, i) => (
        <Box key={`${i} ${table.name}`} data-testid="laid-table" sx={{ mb: 1 }}>
          <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
            <Dash index={firstDash + i} />
            <Typography noWrap sx={{ flex: 1, minWidth: 0 }} title={table.name}>
              {table.name}
            </Typography>
            <IconButton size="small" aria-label={`Remove ${table.name}`} onClick={() => compared.takeOff(i)}>
              <Close fontSize="small" />
            </IconButton>
          </Box>
          {children(table)}
        </Box>
      ))}
      <Button size="small" disabled={full} onClick={() => input.current?.click()}>
        Compare with {what} (CSV)…
      </Button>
      <FileField
        ref={input}
        accept=".csv,text/csv"
        testId="curves-file"
        onFile={(file) => void compared.lay(file)}
      />
    </Box>
  );
}
