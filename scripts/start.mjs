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
const built = `${root}build/server/index.js`;
const sources = ['app', 'core', 'public', 'package-lock.json', 'vite.config.ts', 'react-router.config.ts'];
if (!existsSync(built) || sources.some((s) => newest(root + s) > statSync(built).mtimeMs))
  run('npx', ['react-router', 'build']);
await import('../server/serve.mjs');
