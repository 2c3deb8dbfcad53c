import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { useFetcher } from 'react-router';
import type { Settings as StudioSettings } from '../../core/records/types.ts';
import { lengthWithUnit } from '../../core/units/length.ts';
import { Choice } from '../components/Choice';
import { RouteTrouble } from '../components/RouteTrouble';
import { TopBar } from '../components/TopBar';
import { useSettings } from '../components/useSettings';
import { saveSettings } from '../storage/settings';
import type { Route } from './+types/settings';

export const meta: Route.MetaFunction = () => [{ title: 'Settings · Deep Angle' }];

/** Studio settings are changed from any page. */
export async function clientAction({ request }: Route.ClientActionArgs) {
  await saveSettings((await request.json()) as Partial<StudioSettings>);
  return { ok: true };
}

export default function Settings() {
  const settings = useSettings();
  const fetcher = useFetcher();
  const change = (by: Partial<StudioSettings>): void =>
    void fetcher.submit(by, { method: 'post', action: '/settings', encType: 'application/json' });
  return (
    <Box sx={{ minHeight: '100vh' }}>
      <TopBar>
        <Typography color="text.secondary">Settings of this studio</Typography>
      </TopBar>
      <Box component="main" sx={{ maxWidth: 720, mx: 'auto', p: { xs: 2, md: 4 }, display: 'grid', gap: 3 }}>
        <Typography variant="h1">Settings</Typography>
        <Choice
          label="Lengths"
          options={[
            ['mm', 'millimetres'],
            ['cm', 'centimetres'],
            ['in', 'inches'],
          ]}
          value={settings.lengthUnit}
          onChange={(lengthUnit) => lengthUnit && change({ lengthUnit })}
        />
        <Typography variant="body2" color="text.secondary" sx={{ mt: -2 }}>
          A saddle height of 735 mm is shown as {lengthWithUnit(735, settings.lengthUnit)}. Any unit may be
          typed in any field: “31 1/2 in”, “80cm”, “803”. Corrections to the bike stay in millimetres, as
          tools and scales have them.
        </Typography>
        <Choice
          label="Mass"
          options={[
            ['kg', 'kilograms'],
            ['lb', 'pounds'],
          ]}
          value={settings.massUnit}
          onChange={(massUnit) => massUnit && change({ massUnit })}
        />
        <Choice
          label="Knee and elbow"
          options={[
            ['bend', 'bend: 0° straight'],
            ['inside', 'inside: 180° straight'],
          ]}
          value={settings.jointConvention}
          onChange={(jointConvention) => jointConvention && change({ jointConvention })}
        />
        <Choice
          label="Paper"
          options={[
            ['system', 'as the system has it'],
            ['light', 'light'],
            ['dark', 'dark'],
          ]}
          value={settings.theme}
          onChange={(theme) => theme && change({ theme })}
        />
      </Box>
    </Box>
  );
}

export function ErrorBoundary({ error }: Route.ErrorBoundaryProps) {
  return <RouteTrouble error={error} bare />;
}
