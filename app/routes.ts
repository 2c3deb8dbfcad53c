import { index, route, type RouteConfig } from '@react-router/dev/routes';

export default [
  index('studio/riders/riders.tsx'),
  route('sessions/:sessionId', 'stations/session.tsx', [
    index('stations/session.index.tsx'),
    route('intake', 'stations/intake/intake.tsx'),
    route('body', 'stations/body/body.tsx'),
    route('bike', 'stations/bike/bike.tsx'),
    route('film', 'stations/film/film.tsx'),
    route('scale', 'stations/scale/scale.tsx'),
    route('mark', 'stations/mark/mark.tsx'),
    route('track', 'stations/track/track.tsx'),
    route('read', 'stations/read/read.tsx'),
    route('plan', 'stations/plan/plan.tsx'),
    route('trial', 'stations/trial/trial.tsx'),
    route('handover', 'stations/handover/handover.tsx'),
  ]),
  route('riders/:riderId', 'studio/rider/rider.tsx'),
  route('backup', 'studio/backup/backup.tsx'),
  route('parts', 'studio/parts/parts.tsx'),
  route('protocols/:protocolId?', 'studio/protocols/protocols.tsx'),
  route('practice', 'studio/practice/practice.tsx'),
  route('trash', 'studio/trash/trash.tsx'),
  route('settings', 'studio/settings/settings.tsx'),
  route('*', 'studio/lost/lost.tsx'),
] satisfies RouteConfig;
