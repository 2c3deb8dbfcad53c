import { expose } from 'comlink';
import { prescribe } from '../../core/plan/prescribe.ts';

const api = { prescribe };

export type PlanApi = typeof api;
expose(api);
