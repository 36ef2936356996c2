import { expose, type Endpoint } from 'comlink';
import { EngineRoom } from './engine-room';

interface SharedScope {
  onconnect: (event: MessageEvent) => void;
}

const room = new EngineRoom(() => new Promise((resolve) => setTimeout(resolve, 0)));

// Shared between pages where the browser can, else one page's own.
if ('onconnect' in globalThis)
  (globalThis as unknown as SharedScope).onconnect = ({ ports }) => expose(room.door(), ports[0]);
else expose(room.door(), globalThis as unknown as Endpoint);
