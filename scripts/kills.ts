/**
 * npm run kills -- [number] [--from FILE]: kills the browser so many times in the middle of edits, tracking, restores and erases at every
 * station, and looks each time what is there. Stands on its feet again where it was broken off: how far it is lies in test-results.
 */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { endLives, newLives, oneKill, type Lives } from '../e2e/kills.ts';

const PORT = 4191;
const FILE = 'test-results/kills.json';
const wanted = Number(process.argv[2] ?? 1000);
mkdirSync('test-results', { recursive: true });
const left = existsSync(FILE) ? (JSON.parse(readFileSync(FILE, 'utf8')) as Lives) : null;
const lives = left && existsSync(left.profile) && left.kills < wanted ? left : newLives();
const server = spawn('node', ['server/serve.mjs', '--port', `${PORT}`, '--strict-port'], {
  stdio: ['ignore', 'pipe', 'inherit'],
});
await once(server.stdout, 'data');
while (lives.kills < wanted) {
  await oneKill(lives, `http://localhost:${PORT}`, 7000 + lives.kills);
  writeFileSync(FILE, JSON.stringify(lives));
  if (lives.kills % 25 === 0 || lives.kills === wanted)
    console.log(`${lives.kills} kills, ${lives.edits} edits, ${lives.troubles.length} troubles`);
}
server.kill();
endLives(lives);
lives.troubles.forEach((t) => console.log(t));
process.exit(lives.troubles.length === 0 ? 0 : 1);
