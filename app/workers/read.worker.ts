import { expose } from 'comlink';
import { readFrontal } from '../../core/frontal/readFrontal.ts';
import { readTracks } from '../../core/stroke/read.ts';

const api = { readTracks, readFrontal };

export type ReadApi = typeof api;
expose(api);
