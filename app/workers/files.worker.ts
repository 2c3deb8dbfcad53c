import { expose } from 'comlink';
import { fileReaders } from './fileReaders';

expose(fileReaders);
