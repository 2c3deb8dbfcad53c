// The door to analyse.ts on a machine where nothing is installed yet.
import { ensureInstalled, run } from './ensure-installed.mjs';

ensureInstalled();
const done = run('node', ['--import', 'tsx', 'scripts/analyse.ts', ...process.argv.slice(2)], {
  mayFail: true,
});
process.exit(done.status ?? 1);
