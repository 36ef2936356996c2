import { expose } from 'comlink';
import { PracticeDoor } from './practice-room';

expose(new PracticeDoor());
