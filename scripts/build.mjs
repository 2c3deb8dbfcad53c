// Builds the application, and then the service worker that knows what the build is made of.
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { brotliCompressSync, constants, gzipSync } from 'node:zlib';
import { build } from 'vite';
import { run } from './ensure-installed.mjs';

const root = fileURLToPath(new URL('..', import.meta.url));
const client = `${root}build/client`;

run('npx', ['react-router', 'build']);

const hashOf = (file) => createHash('sha256').update(readFileSync(file)).digest('hex').slice(0, 16);
const assets = readdirSync(`${client}/assets`).map((name) => ({ url: `/assets/${name}`, revision: null }));
const shell = createHash('sha256')
  .update(
    assets
      .map((a) => a.url)
      .sort()
      .join(),
  )
  .digest('hex')
  .slice(0, 16);
const plain = ['icon.svg', 'manifest.webmanifest'].filter((name) => existsSync(`${client}/${name}`));
const precache = [
  ...assets,
  ...plain.map((name) => ({ url: `/${name}`, revision: hashOf(`${client}/${name}`) })),
  // The page itself comes from the server and carries the names of its scripts.
  { url: '/', revision: shell },
];
await build({
  root,
  configFile: false,
  logLevel: 'warn',
  publicDir: false,
  define: {
    'self.__WB_MANIFEST': JSON.stringify(precache),
    'process.env.NODE_ENV': '"production"',
  },
  build: {
    outDir: client,
    emptyOutDir: false,
    copyPublicDir: false,
    target: 'es2022',
    lib: { entry: `${root}app/offline/sw.ts`, formats: ['iife'], name: 'offline', fileName: () => 'sw.js' },
  },
});

// Packed once here, not on every request; the server sends whichever the browser takes.
for (const { url } of assets.filter((a) => /\.(m?js|css|ttf)$/.test(a.url))) {
  const whole = readFileSync(client + url);
  writeFileSync(
    `${client}${url}.br`,
    brotliCompressSync(whole, { params: { [constants.BROTLI_PARAM_QUALITY]: 9 } }),
  );
  writeFileSync(`${client}${url}.gz`, gzipSync(whole, { level: 9 }));
}
