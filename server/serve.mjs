// Serves the built application. Every answer carries the same headers: no other origin may be asked for anything, and the page
// is isolated so that shared memory can be used.
import './production.mjs';
import { createServer } from 'node:http';
import process from 'node:process';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import compression from 'compression';
import express from 'express';
import expressStaticGzip from 'express-static-gzip';
import { createRequestHandler } from '@react-router/express';

const root = fileURLToPath(new URL('..', import.meta.url));
const poseModel = fileURLToPath(new URL('.', import.meta.resolve('@mediapipe/pose')));
const { values } = parseArgs({
  options: {
    port: { type: 'string' },
    // This machine alone, unless said otherwise: riders’ films lie in the browser, but nobody else has any business here.
    host: { type: 'string', default: process.env.HOST ?? '127.0.0.1' },
    'strict-port': { type: 'boolean', default: false },
  },
});
const wanted = Number(values.port ?? process.env.PORT ?? 4170);
if (!Number.isInteger(wanted) || wanted < 1 || wanted > 65535) {
  console.error(`“${values.port ?? process.env.PORT}” is not a port: use a whole number from 1 to 65535.`);
  process.exit(2);
}
const asked = values.port !== undefined || process.env.PORT !== undefined;

const app = express();
app.disable('x-powered-by');
app.use((request, response, next) => {
  if (['GET', 'HEAD', 'POST', 'OPTIONS'].includes(request.method)) next();
  else response.status(405).set('Allow', 'GET, HEAD').type('text').send('This method is not known here.');
});
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
/** What computes beside the pages may use WebAssembly, and reach nothing but us. */
const computing = (rule) => (_request, response, next) => {
  response.set({
    'Content-Security-Policy': [
      "default-src 'none'",
      "script-src 'self' 'wasm-unsafe-eval'",
      "connect-src 'self' blob: data:",
      "img-src 'self' blob: data:",
      rule,
    ].join('; '),
  });
  next();
};
// The pose model runs in a page of its own, which may only stand inside ours.
app.use('/pose', computing("frame-ancestors 'self'"));
app.use('/pose/model', express.static(poseModel, { immutable: true, maxAge: '1y', index: false }));
// An open page asks whether it is still of the version that is served.
app.get('/version', async (_request, response, next) => {
  try {
    const { assets } = await import('../build/server/index.js');
    response.set('Cache-Control', 'no-store').type('text').send(assets.version);
  } catch (error) {
    next(error);
  }
});
app.get('/healthz', (_request, response) => response.type('text').send('ok'));
app.use('/demo', express.static(`${root}build/client/demo`, { maxAge: '1h', index: false }));
// A worker obeys the policy that its own file comes with.
app.use(['/assets', '/sw.js'], computing("worker-src 'self'"));
// Packed when they were built.
app.use(
  '/assets',
  expressStaticGzip(`${root}build/client/assets`, {
    enableBrotli: true,
    orderPreference: ['br', 'gz'],
    index: false,
    serveStatic: { immutable: true, maxAge: '1y' },
  }),
);
app.use(compression());
app.get('/sw.js', (_request, response, next) => {
  response.set('Cache-Control', 'no-cache');
  next();
});
app.use(express.static(`${root}build/client`, { cacheControl: false, index: false }));
app.all(
  '*all',
  createRequestHandler({ build: () => import('../build/server/index.js'), mode: 'production' }),
);

// Whatever goes wrong, the answer is a line: no path, no stack.
app.use((error, _request, response, next) => {
  if (response.headersSent) return void next(error);
  const status =
    error instanceof URIError || error.status === 400 || error.code === 'ERR_INVALID_URL' ? 400 : 500;
  if (status === 500) console.error(error);
  response
    .status(status)
    .type('text')
    .send(status === 400 ? 'This address can’t be read.' : 'The server could not answer this.');
});

/** Ends when it is told to: answers under way are finished, for three seconds at most. */
function endWith(server) {
  for (const signal of ['SIGINT', 'SIGTERM'])
    process.once(signal, () => {
      server.close(() => process.exit(0));
      setTimeout(() => {
        server.closeAllConnections();
        process.exit(0);
      }, 3000).unref();
      server.closeIdleConnections();
    });
}

function listen(port, left) {
  const server = createServer({ maxHeaderSize: 16_384, headersTimeout: 10_000, requestTimeout: 30_000 }, app);
  server.maxHeadersCount = 100;
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
  server.listen(port, values.host, () => {
    endWith(server);
    // The pages come with some thousand files: they are read now, not when the first page is asked for. What fails is told then.
    import('../build/server/index.js').catch(() => undefined);
    console.log(`Deep Angle is ready: http://localhost:${port}`);
  });
}
listen(wanted, values['strict-port'] ? 0 : 20);
