// Installs the packages when they are missing or older than package-lock.json. Needs Node and npm only.
import { spawnSync } from 'node:child_process';
import { existsSync, statSync } from 'node:fs';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('..', import.meta.url));

/** Runs a command in the project's folder with its output shown (on stderr where stdout is a result); ends the process when it fails. */
export function run(command, args, options = {}) {
  const done = spawnSync(command, args, {
    cwd: root,
    stdio: options.stdio ?? 'inherit',
    env: { ...process.env, ...options.env },
  });
  if (done.status !== 0 && !options.mayFail) {
    console.error(`${command} ${args.join(' ')} failed${done.error ? `: ${done.error.message}` : ''}.`);
    process.exit(done.status ?? 1);
  }
  return done;
}

export function ensureInstalled() {
  const marker = `${root}/node_modules/.package-lock.json`;
  const stale =
    !existsSync(marker) || statSync(marker).mtimeMs < statSync(`${root}/package-lock.json`).mtimeMs;
  if (stale) run('npm', ['ci', '--no-audit', '--no-fund'], { stdio: ['ignore', 2, 2] });
}

if (process.argv[1] === fileURLToPath(import.meta.url)) ensureInstalled();
