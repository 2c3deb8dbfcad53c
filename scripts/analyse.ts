/**
 * Reads a tracks table without a browser:
 *   npm run --silent analyse -- tracks.csv --mm-per-px 2.75 [--facing left|right]
 * Prints JSON. A bad file or call: one line on stderr, exit 2.
 */
import { analysis } from './analysis.ts';
import { printed } from './refusal.ts';

printed(() => analysis(process.argv.slice(2)));
