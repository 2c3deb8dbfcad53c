// npm test: installs what is missing (Chromium through apt-get when absent) and runs types, lint, unit and interface tests.
// Ends with one line, “N passed, N failed”.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, readFileSync, rmSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { ensureInstalled, run } from './ensure-installed.mjs';

const root = fileURLToPath(new URL('..', import.meta.url));
const chromium = process.env.CHROMIUM ?? '/usr/bin/chromium';

ensureInstalled();
// Chromium without its window is quicker; where it can't be had the tests take the whole one.
const shell = process.env.CHROMIUM ?? '/usr/bin/chromium-headless-shell';
const absent = [
  ...(existsSync(chromium) ? [] : ['chromium']),
  // Reads the papers that the interface tests save.
  ...(existsSync('/usr/bin/pdftotext') ? [] : ['poppler-utils']),
  ...(existsSync(shell) ? [] : ['chromium-headless-shell']),
];
if (absent.length > 0) {
  run('apt-get', ['update', '-qq'], { mayFail: true });
  // One by one: that one can't be had keeps none of the others away.
  for (const name of absent)
    run('apt-get', ['install', '-y', '-qq', name], {
      mayFail: name === 'chromium-headless-shell',
      env: { DEBIAN_FRONTEND: 'noninteractive' },
    });
}

let passed = 0;
let failed = 0;
function count(name, ok, p = ok ? 1 : 0, f = ok ? 0 : 1) {
  passed += p;
  failed += f;
  console.log(`— ${name}: ${ok ? 'good' : 'FAILED'}`);
}

const resultsOf = (file) => (existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null);
rmSync(`${root}test-results`, { recursive: true, force: true });

// The compiler makes much that it soon throws away: with more room for it a sixth of its time is saved.
const roomy = { ...process.env, NODE_OPTIONS: `${process.env.NODE_OPTIONS ?? ''} --max-semi-space-size=128` };
/** Whether a script of the package ends well; several can run side by side. */
const ends = async (script) => {
  const child = spawn('npm', ['run', '--silent', script], { cwd: root, stdio: 'inherit', env: roomy });
  const [code] = await once(child, 'exit');
  return code === 0;
};
// Two at a time, each when one is done, the longest first.
const checks = ['types', 'build', 'lint:format', 'lint:code', 'lint:unused', 'lint:rooms'];
const ended = new Map();
const lane = async () => {
  for (let next = checks.shift(); next; next = checks.shift()) ended.set(next, await ends(next));
};
await Promise.all([lane(), lane()]);
const { types, build, ...lint } = Object.fromEntries(ended);
count('types', types);
count('lint', Object.values(lint).every(Boolean));
count('build', build);

const unit = run(
  'npx',
  ['vitest', 'run', '--reporter=default', '--reporter=json', '--outputFile.json=test-results/unit.json'],
  { mayFail: true, env: { ALL_TESTS: '1' } },
);
const unitResults = resultsOf(`${root}test-results/unit.json`);
count(
  'unit tests',
  unit.status === 0,
  unitResults?.numPassedTests ?? 0,
  Math.max(unitResults?.numFailedTests ?? 1, unit.status === 0 ? 0 : 1),
);

if (build) {
  const e2e = run('npx', ['playwright', 'test', '--output=test-results/e2e'], { mayFail: true });
  const stats = resultsOf(`${root}test-results/e2e.json`)?.stats;
  // What passes only when tried again is broken somewhere: in the test or in what it tests.
  const flaky = stats?.flaky ?? 0;
  if (flaky)
    console.log(`${flaky} of the interface tests passed only when tried again: that counts as failed`);
  const good = e2e.status === 0 && flaky === 0;
  count(
    'interface tests',
    good,
    stats?.expected ?? 0,
    Math.max((stats?.unexpected ?? 1) + flaky, good ? 0 : 1),
  );
}

console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
