import { describe, expect, it } from 'vitest';
import { LinkLost } from './link';
import { serialLink } from './serial-link';

/** A port whose other end is written and read here. */
function port() {
  let send!: ReadableStreamDefaultController<Uint8Array>;
  const got: string[] = [];
  const hear: { on: (line: string) => void } = { on: () => undefined };
  let isClosed = false;
  const readable = new ReadableStream<Uint8Array>({
    start: (controller) => void (send = controller),
  });
  const writable = new WritableStream<Uint8Array>({
    write: (chunk) => {
      const line = new TextDecoder().decode(chunk);
      got.push(line);
      hear.on(line);
    },
  });
  return {
    own: { readable, writable, close: () => Promise.resolve(void (isClosed = true)) },
    say: (text: string) => send.enqueue(new TextEncoder().encode(text)),
    unplug: () => send.error(new DOMException('gone', 'NetworkError')),
    got,
    hear,
    isClosed: () => isClosed,
  };
}

describe('a serial line', () => {
  it('asks and is answered, in pieces, by whatever ends a line', async () => {
    const other = port();
    const link = serialLink(other.own);
    other.hear.on = (line) => {
      if (line !== 'READ?\n') return;
      other.say('+8.9');
      setTimeout(() => other.say('7E+00\r'), 5);
      setTimeout(() => other.say('\n'), 10);
    };
    expect(await link.ask('READ?')).toBe('+8.97E+00');
    await new Promise((resolve) => setTimeout(resolve, 15));
    await link.tell('*RST');
    expect(await link.ask('READ?')).toBe('+8.97E+00');
    expect(other.got).toEqual(['READ?\n', '*RST\n', 'READ?\n']);
  });
  it('does not take what came before the question for its answer', async () => {
    const other = port();
    const link = serialLink(other.own);
    other.say('old\n');
    await new Promise((resolve) => setTimeout(resolve, 5));
    other.hear.on = () => other.say('new\n');
    expect(await link.ask('READ?')).toBe('new');
  });
  it('is lost when it is unplugged: to who waits, and to who asks later', async () => {
    const other = port();
    const link = serialLink(other.own);
    other.hear.on = () => other.unplug();
    await expect(link.ask('READ?')).rejects.toBeInstanceOf(LinkLost);
    await expect(link.ask('READ?')).rejects.toThrow('unplugged');
    await expect(link.tell('*RST')).rejects.toBeInstanceOf(LinkLost);
  });
  it('lets go of the port', async () => {
    const other = port();
    const link = serialLink(other.own);
    link.close();
    await new Promise((resolve) => setTimeout(resolve, 20));
    expect(other.isClosed()).toBe(true);
    await expect(link.tell('*RST')).rejects.toBeInstanceOf(LinkLost);
  });
});
