import { CATALOGUE } from './catalogue.ts';
import { DEMO_PARTS } from './parts.ts';

const RIDERS = new Set(CATALOGUE.riders.map((r) => r.id));
const PARTS = new Set(DEMO_PARTS.parts.map((p) => p.id));

/** Whether a rider is one of the made-up ones that the application comes with. */
export const isSampleRider = (riderId: string): boolean => RIDERS.has(riderId);

/** Whether a part is one of those that the application comes with. */
export const isSamplePart = (partId: string): boolean => PARTS.has(partId);
