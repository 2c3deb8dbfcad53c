import { expose } from 'comlink';
import { readFrontal } from '../../core/kinematics/readFrontal.ts';
import { readTracks } from '../../core/kinematics/read.ts';

const api = { readTracks, readFrontal };

export type ReadApi = typeof api;
expose(api);
