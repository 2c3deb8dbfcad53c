/**
 * A plan from the command line: npm run --silent plan -- CASE.json
 * Prints one JSON object (docs/schema/plan.schema.json). Bad input: one line on stderr, exit 2.
 */
import { planOfCase } from './planOfCase.ts';
import { printed } from './refusal.ts';

printed(() => planOfCase(process.argv[2]));
