import { expose } from 'comlink';
import { readTracks } from '../../core/stroke/read.ts';

const api = { readTracks };

export type ReadApi = typeof api;
expose(api);
