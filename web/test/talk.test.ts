// Instruments over the network: a real bench (the command line's), and servers that lie, stall,
// garble or are no instruments at all.
import { createServer, type AddressInfo, type Server, type Socket } from 'node:net';
import { readFileSync } from 'node:fs';
import { afterEach, describe, expect, it } from 'vitest';
import { readDeck } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import { serveBench } from '../../cli/src/simulate';
import { isAllowed, Switchboard } from '../src/server/instrument/talk';

const open: { close: () => unknown }[] = [];
afterEach(() => {
  for (const one of open.splice(0)) one.close();
});

async function listening(server: Server): Promise<number> {
  const sockets = new Set<Socket>();
  server.on('connection', (socket) => sockets.add(socket));
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  open.push({
    close: () => {
      sockets.forEach((socket) => socket.destroy());
      server.close();
    },
  });
  return (server.address() as AddressInfo).port;
}

/** A server that answers each line by this function; undefined: not at all. */
const answering = (answer: (line: string, socket: Socket) => string | undefined): Promise<number> =>
  listening(
    createServer((socket) => {
      socket.on('error', () => undefined);
      let held = '';
      socket.on('data', (data) => {
        held += String(data);
        const lines = held.split('\n');
        held = lines.pop()!;
        for (const line of lines) {
          const said = answer(line, socket);
          if (said !== undefined && !socket.destroyed) socket.write(said);
        }
      });
    }),
  );

function board(list = '', patience = 400): Switchboard {
  const made = new Switchboard(list, patience);
  open.push(made);
  return made;
}

const to = (port: number, message: string, isQuery = message.endsWith('?')) =>
  ({ host: '127.0.0.1', port, message, isQuery }) as const;
const IDN = 'a,b,c,d\n';

describe('addresses', () => {
  it('are loopback, and those on the list', () => {
    expect(isAllowed('127.0.0.1', 5025)).toBe(true);
    expect(isAllowed('LOCALHOST', 5025)).toBe(true);
    expect(isAllowed('meter-1', 5025)).toBe(false);
    expect(isAllowed('meter-1', 5025, 'other, Meter-1')).toBe(true);
    expect(isAllowed('meter-1', 5025, 'meter-1:5025')).toBe(true);
    expect(isAllowed('meter-1', 5026, 'meter-1:5025')).toBe(false);
    expect(isAllowed('', 5025, ' , ,')).toBe(false);
    expect(isAllowed('127.0.0.1', 25)).toBe(false);
  });
  it('that are not allowed are not called at all', async () => {
    expect(await board().say({ ...to(5025, '*IDN?'), host: '198.51.100.7' })).toMatchObject({
      ok: false,
      why: 'forbidden',
    });
  });
});

describe('a talk', () => {
  it('with a simulated bench reads its volts, and goes on after errors', async () => {
    const path = new URL('../../data/demo/boards/cr40-srv.cir', import.meta.url);
    const deck = readDeck(readFileSync(path, 'utf8'), LIBRARY);
    if (!deck.ok) throw new Error('the demo board');
    const port = await listening(
      serveBench({ board: deck.value, faults: [], seed: 1, slips: false }),
    );
    const talk = board('', 5000);
    expect(await talk.say(to(port, 'BENC:POW ON;:ROUT:PROB "VM"'))).toEqual({
      ok: true,
      answer: null,
    });
    const read = await talk.say(to(port, 'MEAS:VOLT?'));
    expect(read.ok && Number(read.answer)).toBeGreaterThan(8.7);
    expect(await talk.say(to(port, 'NONSENSE'))).toEqual({ ok: true, answer: null });
    expect(await talk.say(to(port, 'SYST:ERR?'))).toMatchObject({
      answer: '-113,"Undefined header;NONSENSE"',
    });
    // Many at once come back in order, each with its own answer.
    const many = await Promise.all(
      ['*ESE 7;*ESE?', '*ESE 9;*ESE?', 'SYST:VERS?'].map((m) => talk.say(to(port, m))),
    );
    expect(many.map((one) => one.ok && one.answer)).toEqual(['7', '9', '1999.0']);
  });
  it('is not begun with what is no instrument: it hears one line, and no more', async () => {
    const heard: string[] = [];
    const port = await answering((line) => {
      heard.push(line);
      return '220 mail ready\n';
    });
    const talked = await board().say(to(port, 'DELETE EVERYTHING'));
    expect(talked).toMatchObject({ ok: false, why: 'unreachable' });
    expect(heard).toEqual(['*IDN?']);
  });
  it('says that nobody is there, that it hung up, that it is slow, and calls anew', async () => {
    const talk = board();
    expect(await talk.say(to(9, '*IDN?'))).toMatchObject({ why: 'forbidden' });
    const closed = await answering(() => undefined);
    open.pop()!.close();
    expect(await talk.say(to(closed, '*IDN?'))).toMatchObject({ ok: false, why: 'unreachable' });
    let mood = 'hang up';
    const port = await answering((line, socket) => {
      if (line === '*IDN?') return IDN;
      if (mood === 'hang up') socket.destroy();
      return mood === 'well' ? '1.5\n' : undefined;
    });
    expect(await talk.say(to(port, 'READ?'))).toMatchObject({ why: 'unreachable' });
    mood = 'silent';
    expect(await talk.say(to(port, 'READ?'))).toMatchObject({ why: 'slow' });
    mood = 'well';
    expect(await talk.say(to(port, 'READ?'))).toEqual({ ok: true, answer: '1.5' });
  });
  it('does not take an answer that comes late for that to the next question', async () => {
    let first = true;
    const port = await answering((line, socket) => {
      if (line === '*IDN?') return IDN;
      if (!first) return '2\n';
      first = false;
      setTimeout(() => socket.write('1\n'), 500);
      return undefined;
    });
    const talk = board('', 300);
    expect(await talk.say(to(port, 'READ?'))).toMatchObject({ why: 'slow' });
    await new Promise((resolve) => setTimeout(resolve, 400));
    expect(await talk.say(to(port, 'READ?'))).toEqual({ ok: true, answer: '2' });
  });
  it('does not fill the memory with an answer without end', async () => {
    const port = await answering((line) => (line === '*IDN?' ? IDN : 'x'.repeat(200_000)));
    expect(await board('', 3000).say(to(port, 'READ?'))).toMatchObject({
      ok: false,
      detail: expect.stringContaining('without end') as string,
    });
  });
  it('takes answers in pieces and with a return', async () => {
    const port = await answering((line, socket) => {
      if (line === '*IDN?') return 'a,b,c,d\r\n';
      setTimeout(() => socket.write('3\r\n'), 50);
      return '+1.';
    });
    expect(await board().say(to(port, 'READ?'))).toEqual({ ok: true, answer: '+1.3' });
  });
});
