import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMemo } from 'react';
import { PROTOCOLS } from '../../../core/protocol/protocols.ts';
import type { DayFormat, Studio as StudioRecord } from '../../../core/records/types.ts';
import { lengthWithUnit } from '../../../core/units/length.ts';
import { Choice } from '../../ui/fields/Choice';
import { currencyChoices, LENGTH_CHOICES, PAPER_CHOICES } from '../../ui/words/studioChoices';
import type { Currency } from '../../../core/units/money.ts';
import { answering } from '../../session/answering';
import { RouteTrouble } from '../../ui/RouteTrouble';
import { KeyField } from '../../ui/fields/KeyField';
import { TopBar } from '../../ui/TopBar';
import { isSample } from '../../demo/signature';
import { useSend } from '../../session/useSend';
import { useStudio } from '../../session/useStudio';
import { WordsField } from '../../ui/fields/WordsField';
import { saveStudio } from '../../storage/studio';
import type { Route } from './+types/settings';

const DAYS: readonly (readonly [DayFormat, string])[] = [
  ['month-name', '22 Nov 2027'],
  ['day-first', '22/11/2027'],
  ['month-first', '11/22/2027'],
  ['iso', '2027-11-22'],
];

export const meta: Route.MetaFunction = () => [{ title: 'Settings · Deep Angle' }];

/** Studio settings are changed from any page. */
export const clientAction = answering(async ({ request }: Route.ClientActionArgs) => {
  const saved = await saveStudio((await request.json()) as Partial<StudioRecord>);
  return saved.ok ? null : { message: saved.message };
});

export default function Settings() {
  const studio = useStudio();
  const currencies = useMemo(() => currencyChoices(), []);
  const { fetcher, send: change } = useSend<Partial<StudioRecord>>('/settings');
  return (
    <Box sx={{ minHeight: '100vh' }}>
      <TopBar>
        <Typography color="textSecondary">Studio and settings</Typography>
      </TopBar>
      <Box component="main" sx={{ maxWidth: 720, mx: 'auto', p: { xs: 2, md: 4 }, display: 'grid', gap: 3 }}>
        <Typography variant="h1">Studio</Typography>
        {fetcher.data?.message && <Alert severity="error">{fetcher.data.message}</Alert>}
        {isSample(studio) && (
          <Alert severity="info" variant="outlined">
            These are the sample studio’s details, and appear on the sample riders’ documents only. Enter your
            own for your riders’ documents.
          </Alert>
        )}
        <WordsField label="Name" most={120} value={studio.name} onChange={(name) => change({ name })} />
        <WordsField
          label="Fitter"
          most={120}
          value={studio.fitter}
          onChange={(fitter) => change({ fitter })}
        />
        <WordsField
          label="Contact"
          most={500}
          lines={2}
          value={studio.contact}
          onChange={(contact) => change({ contact })}
        />
        <Typography variant="h2" component="h2" sx={{ mt: 1 }}>
          How figures are shown
        </Typography>
        <Choice
          label="Lengths"
          options={LENGTH_CHOICES}
          value={studio.lengthUnit}
          onChange={(lengthUnit) => lengthUnit && change({ lengthUnit })}
        />
        <Typography variant="body2" color="textSecondary" sx={{ mt: -2 }}>
          A saddle height of 735 mm is shown as {lengthWithUnit(735, studio.lengthUnit)}. Any unit may be
          typed in any field: “31 1/2 in”, “80cm”, “803”. Body, bike, every correction and its reasons are
          shown so; what a film measures (travel, paths, pressure) stays in millimetres.
        </Typography>
        <Choice
          label="Days"
          options={DAYS}
          value={studio.dayFormat}
          onChange={(dayFormat) => dayFormat && change({ dayFormat })}
        />
        <Choice
          label="Paper"
          options={PAPER_CHOICES}
          value={studio.paper}
          onChange={(paper) => paper && change({ paper })}
        />
        <TextField
          select
          size="small"
          label="Prices in"
          value={studio.currency}
          onChange={(e) => change({ currency: e.target.value as Currency })}
        >
          {currencies.map(([code, name]) => (
            <MenuItem key={code} value={code}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          size="small"
          label="Protocol that a new rider begins with"
          value={studio.protocolId}
          onChange={(e) => change({ protocolId: e.target.value })}
        >
          {PROTOCOLS.map((p) => (
            <MenuItem key={p.id} value={p.id}>
              {p.name}
            </MenuItem>
          ))}
        </TextField>
        <Choice
          label="Mass"
          options={[
            ['kg', 'kilograms'],
            ['lb', 'pounds'],
          ]}
          value={studio.massUnit}
          onChange={(massUnit) => massUnit && change({ massUnit })}
        />
        <Choice
          label="Knee and elbow"
          options={[
            ['bend', 'bend: 0° straight'],
            ['inside', 'inside: 180° straight'],
          ]}
          value={studio.jointConvention}
          onChange={(jointConvention) => jointConvention && change({ jointConvention })}
        />
        <Choice
          label="Theme"
          options={[
            ['system', 'as the device'],
            ['light', 'light'],
            ['dark', 'dark'],
          ]}
          value={studio.theme}
          onChange={(theme) => theme && change({ theme })}
        />
        <Typography variant="h2" component="h2" sx={{ mt: 1 }}>
          A presenter’s remote at the live camera
        </Typography>
        <KeyField
          label="Next step on the bike"
          usual="Page Down or →"
          value={studio.remote.next}
          onChange={(next) => change({ remote: { ...studio.remote, next } })}
        />
        <KeyField
          label="Undo it"
          usual="Page Up or ←"
          value={studio.remote.back}
          onChange={(back) => change({ remote: { ...studio.remote, back } })}
        />
      </Box>
    </Box>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return <RouteTrouble error={error} bare />;
}
