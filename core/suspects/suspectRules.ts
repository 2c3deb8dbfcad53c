import { COCKPIT } from './suspectsCockpit.ts';
import { FEET } from './suspectsFeet.ts';
import { RIDER } from './suspectsRider.ts';
import { SADDLE } from './suspectsSaddle.ts';

/** Every suspect once, with where its evidence comes from (handbook: rules, symptoms). */
export const RULES = { ...FEET, ...SADDLE, ...COCKPIT, ...RIDER };

export type SuspectKey = keyof typeof RULES;
