// Serves the built application. Every answer carries the same headers: no other origin may be asked for anything, and the page
// is isolated so that shared memory can be used.
import { createServer } from 'node:http';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import compression from 'compression';
import express from 'express';
import { createRequestHandler } from '@react-router/express';

const root = fileURLToPath(new URL('..', import.meta.url));
const poseModel = fileURLToPath(new URL('.', import.meta.resolve('@mediapipe/pose')));
const { values } = parseArgs({
  options: { port: { type: 'string' }, 'strict-port': { type: 'boolean', default: false } },
});
const wanted = Number(values.port ?? process.env.PORT ?? 4170);
if (!Number.isInteger(wanted) || wanted < 1 || wanted > 65535) {
  console.error(`“${values.port ?? process.env.PORT}” is not a port: use a whole number from 1 to 65535.`);
  process.exit(2);
}
const asked = values.port !== undefined || process.env.PORT !== undefined;

const app = express();
app.disable('x-powered-by');
app.use((_request, response, next) => {
  response.set({
    'Cross-Origin-Opener-Policy': 'same-origin',
    'Cross-Origin-Embedder-Policy': 'require-corp',
    'Cross-Origin-Resource-Policy': 'same-origin',
    'X-Content-Type-Options': 'nosniff',
    'Referrer-Policy': 'no-referrer',
    'Permissions-Policy': 'camera=(self), microphone=(), geolocation=()',
  });
  next();
});
// The pose model runs in a page of its own, which may use WebAssembly and may only stand inside ours.
app.use('/pose', (_request, response, next) => {
  response.set({
    'Content-Security-Policy': [
      "default-src 'none'",
      "script-src 'self' 'wasm-unsafe-eval'",
      "connect-src 'self' blob: data:",
      "img-src 'self' blob: data:",
      "frame-ancestors 'self'",
    ].join('; '),
  });
  next();
});
app.use('/pose/model', express.static(poseModel, { immutable: true, maxAge: '1y', index: false }));
app.get('/healthz', (_request, response) => response.type('text').send('ok'));
app.use('/demo', express.static(`${root}build/client/demo`, { maxAge: '1h', index: false }));
app.use(compression());
app.use(
  '/assets',
  express.static(`${root}build/client/assets`, { immutable: true, maxAge: '1y', index: false }),
);
app.get('/sw.js', (_request, response, next) => {
  response.set('Cache-Control', 'no-cache');
  next();
});
app.use(express.static(`${root}build/client`, { cacheControl: false, index: false }));
app.all(
  '*all',
  createRequestHandler({ build: () => import('../build/server/index.js'), mode: 'production' }),
);

function listen(port, left) {
  const server = createServer(app);
  server.once('error', (error) => {
    if (error.code !== 'EADDRINUSE') throw error;
    if (asked || left === 0) {
      console.error(
        `Port ${port} is taken by another program. Stop that one, or choose another: npm start -- --port ${port + 10}`,
      );
      process.exit(1);
    }
    console.log(`Port ${port} is taken; trying ${port + 1}.`);
    listen(port + 1, left - 1);
  });
  server.listen(port, () => console.log(`Deep Angle is ready: http://localhost:${port}`));
}
listen(wanted, values['strict-port'] ? 0 : 20);
