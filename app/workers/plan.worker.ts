import { expose } from 'comlink';
import { prescribe } from '../../core/prescribe/prescribe.ts';

const api = { prescribe };

export type PlanApi = typeof api;
expose(api);
