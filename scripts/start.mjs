// npm start: installs what is missing, builds when the sources are newer than the build, serves.
import { existsSync, readdirSync, statSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { ensureInstalled, run } from './ensure-installed.mjs';

const root = fileURLToPath(new URL('..', import.meta.url));

function newest(path) {
  const s = statSync(path);
  if (!s.isDirectory()) return s.mtimeMs;
  return Math.max(s.mtimeMs, ...readdirSync(path).map((name) => newest(`${path}/${name}`)));
}

ensureInstalled();
// Written last: a build that was broken off has none.
const built = `${root}build/client/sw.js`;
const sources = [
  'app',
  'core',
  'sim',
  'public',
  'package-lock.json',
  'vite.config.ts',
  'react-router.config.ts',
];
if (!existsSync(built) || sources.some((s) => newest(root + s) > statSync(built).mtimeMs))
  run('node', ['scripts/build.mjs']);
await import('../server/serve.mjs');
