import { index, route, type RouteConfig } from '@react-router/dev/routes';

export default [
  index('routes/riders.tsx'),
  route('sessions/:sessionId', 'routes/session.tsx', [
    index('routes/session.index.tsx'),
    route('intake', 'routes/intake.tsx'),
    route('body', 'routes/body.tsx'),
    route('bike', 'routes/bike.tsx'),
    route('film', 'routes/film.tsx'),
    route('scale', 'routes/scale.tsx'),
    route('mark', 'routes/mark.tsx'),
    route('track', 'routes/track.tsx'),
    route('read', 'routes/read.tsx'),
    route('plan', 'routes/plan.tsx'),
    route('trial', 'routes/trial.tsx'),
    route('handover', 'routes/handover.tsx'),
  ]),
  route('riders/:riderId', 'routes/rider.tsx'),
  route('backup', 'routes/backup.tsx'),
  route('parts', 'routes/parts.tsx'),
  route('protocols/:protocolId?', 'routes/protocols.tsx'),
  route('bin', 'routes/bin.tsx'),
  route('settings', 'routes/settings.tsx'),
  route('*', 'routes/lost.tsx'),
] satisfies RouteConfig;
