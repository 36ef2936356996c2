// @vitest-environment happy-dom
import { indexBoard, readSheetLines } from '@hanzai/core/board';
import { MeterProfile, STANDARD_METER } from '@hanzai/core/instrument';
import { SIMULATED_NAME } from '@hanzai/core/simulated';
import { LIBRARY } from '@hanzai/data';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import fc from 'fast-check';
import { v7 } from 'uuid';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Entry, EntryBody } from '../case/entry';
import { engineReadings } from '../case/engine-request';
import { playJournal } from '../case/journal';
import { caseProgress } from '../case/progress';
import { solveHere } from '../case/solved';
import { Engine } from '../workers/engine';
import { Instruments } from './Instruments';
import { asTyped, TypedInstrument, typedResistors } from './typed-profile';

// The band at the top follows what is stored: no business of this page.
vi.mock('../case/Band', () => ({ Band: () => null }));
const sent: unknown[] = [];
beforeEach(() => {
  sent.length = 0;
  vi.stubGlobal('fetch', (_: string, options: { body: string }) => {
    sent.push(JSON.parse(options.body));
    return Promise.resolve(
      new Response(options.body, { status: 201, headers: { 'content-type': 'application/json' } }),
    );
  });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe('a profile as it is typed', () => {
  it('comes back as it was, whatever it is', () => {
    const figure = fc.integer({ min: 1, max: 9999 });
    const profile = fc
      .record({
        counts: fc.integer({ min: 1000, max: 50_000 }),
        share: fc.integer({ min: 1, max: 500 }),
        more: fc.integer({ min: 0, max: 50 }),
        ohm: figure,
        lead: fc.option(fc.integer({ min: 0, max: 99 })),
        magnitude: fc.boolean(),
      })
      .map(({ counts, share, more, ohm, lead, magnitude }): MeterProfile => ({
        ...STANDARD_METER,
        counts,
        volts: { share: share / 10_000, counts: more },
        ohms: { share: share / 20_000, counts: more },
        continuityOhm: ohm / 10,
        esrMethod: magnitude ? 'magnitude' : 'real',
        ...(lead === null ? {} : { leadOhm: lead / 100 }),
      }));
    fc.assert(
      fc.property(profile, (own) => {
        const read = TypedInstrument.parse(asTyped('mine', ['voltage', 'esr'], own));
        expect(read.profile.volts.share).toBeCloseTo(own.volts.share, 9);
        expect(read.profile).toMatchObject({
          counts: own.counts,
          ohmRanges: own.ohmRanges,
          voltRanges: own.voltRanges,
          esrMethod: own.esrMethod,
        });
        expect(read.profile.leadOhm).toBe(own.leadOhm);
        expect(MeterProfile.safeParse(read.profile).success).toBe(true);
      }),
    );
  });
  it('is refused field by field where it is nonsense', () => {
    const start = asTyped('mine', ['voltage', 'resistance', 'esr', 'logic'], STANDARD_METER);
    for (const [key, text] of Object.entries({
      name: '  ',
      counts: 'many',
      voltShare: '-1',
      voltRanges: '4 x',
      ohmRanges: '400 4k',
      ohmVoltLimit: '0',
      leadOhm: 'long',
      logicHighVolt: '0.1',
      esrHertz: '5V',
      ohmCounts: '',
    })) {
      const read = TypedInstrument.safeParse({ ...start, [key]: text });
      expect(read.success, key).toBe(false);
      expect(read.error!.issues[0]!.path[0], key).toBe(key);
    }
    expect(TypedInstrument.safeParse({ ...start, uses: [] }).success).toBe(false);
  });
  it('takes known resistors a line each, and names the lines that are none', () => {
    expect(typedResistors('100 100.4 0.1\n1k; 1.003k; 1%\n\nx y\n0 1\n10 ol')).toEqual({
      known: [
        { trueOhm: 100, readOhm: 100.4, tolerance: 0.001 },
        { trueOhm: 1000, readOhm: 1003, tolerance: 0.01 },
      ],
      unread: [4, 5, 6],
    });
  });
});

describe('the instruments of the workshop', () => {
  it('teach what to begin with, take one, and a check fits its leads', async () => {
    render(<Instruments instruments={[]} />);
    expect(screen.getByText(/None is written down yet/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Keep it' }));
    expect(await screen.findByText(/what it is called/)).toBeTruthy();
    expect(sent).toEqual([]);
    await userEvent.type(screen.getByLabelText('Name'), 'yellow hand meter');
    await userEvent.type(
      screen.getByLabelText(/known resistors/),
      '1 1.3 0.1{Enter}10 10.3 0.1{Enter}100 100.3 0.1',
    );
    expect(screen.getByText(/Leads 300 mΩ/)).toBeTruthy();
    await userEvent.click(screen.getByRole('button', { name: 'Take the leads' }));
    await userEvent.click(screen.getByRole('button', { name: 'Keep it' }));
    expect(await screen.findByText('yellow hand meter')).toBeTruthy();
    expect(sent[0]).toMatchObject({ name: 'yellow hand meter', profile: { leadOhm: 0.3 } });
  });
});

describe('an instrument in a case', () => {
  const { board } = readSheetLines('J1 10V in: 1=A 2=0\nR1 A M 10k 1%\nR2 M 0 10k 1%', LIBRARY);
  const index = indexBoard(board);
  const volts: EntryBody = {
    kind: 'reading',
    setup: 'on',
    quantity: 'voltage',
    at: 'M',
    to: '',
    value: 4.7,
    typed: 'm 4.7',
  };
  const coarse: EntryBody = {
    kind: 'meter',
    name: 'old needle',
    kinds: ['voltage'],
    profile: { ...STANDARD_METER, volts: { share: 0.1, counts: 2 } },
  };
  const journal = (...bodies: EntryBody[]) =>
    playJournal(
      bodies.map((body): Entry => ({ id: v7(), madeAt: new Date().toISOString(), body })),
      index,
    );
  it('counts from when it is taken into use until the standard meter is used again', () => {
    const { readings, meters } = journal(
      volts,
      coarse,
      volts,
      { ...coarse, profile: null } as EntryBody,
      volts,
    );
    expect(readings.map(({ by }) => by)).toEqual([undefined, 'old needle', undefined]);
    expect(readings.map(({ measurement }) => measurement.meter?.volts.share)).toEqual([
      undefined,
      0.1,
      undefined,
    ]);
    expect(meters.size).toBe(0);
  });
  it('moves the band that is shown, and what the engine believes', async () => {
    const engine = new Engine(board);
    const asked = { setup: 'on', kind: 'voltage', at: 'M', to: '', absent: [] };
    const own = coarse.kind === 'meter' ? coarse.profile! : undefined;
    expect(engine.expect(asked)!.band).not.toBe(engine.expect({ ...asked, meter: own })!.band);
    const within = async (...bodies: EntryBody[]): Promise<boolean> => {
      let said = false;
      const readings = engineReadings(journal(...bodies));
      await engine.assess(
        { ticket: 1, readings, absent: [], look: {} },
        {
          send: (event) => {
            if (event.type === 'line-up') said = event.lineUp.expected[readings[0]!.id]!.within;
          },
          pause: () => Promise.resolve(),
          stale: () => false,
        },
      );
      return said;
    };
    expect(await within(volts)).toBe(false);
    expect(await within(coarse, volts)).toBe(true);
  });
});

describe('readings of the simulated bench', () => {
  const { board } = readSheetLines('J1 9V in: 1=VIN 2=0\nF1 VIN VM T1A\nR1 VM 0 100', LIBRARY);
  const index = indexBoard(board);
  const ohms = (instrument?: string): EntryBody => ({
    kind: 'reading',
    setup: 'off',
    quantity: 'resistance',
    at: 'VM',
    to: '',
    value: 100,
    typed: 'vm 100 ohm',
    ...(instrument ? { instrument } : {}),
  });
  const played = (...bodies: EntryBody[]) =>
    playJournal(
      bodies.map((body): Entry => ({ id: v7(), madeAt: new Date().toISOString(), body })),
      index,
    );
  it('let no fuse in that the same reading of the real board lets in', () => {
    expect(solveHere(index, played(ohms())).fuse('F1')).toBeUndefined();
    expect(solveHere(index, played(ohms(SIMULATED_NAME))).fuse('F1')).toBeDefined();
  });
  it('trace, pass no step of a proof, and stand against closing', () => {
    const symptom: EntryBody = { kind: 'symptom', text: 'dark' };
    const fitted: EntryBody = {
      kind: 'fitted',
      ref: 'R1',
      value: '100',
      polarityChecked: false,
      note: '',
    };
    const volts = (instrument?: string): EntryBody =>
      ({
        ...ohms(instrument),
        setup: 'on',
        quantity: 'voltage',
        value: 9,
        typed: 'vm 9',
      }) as EntryBody;
    const passed = (...bodies: EntryBody[]): number =>
      solveHere(index, played(symptom, fitted, ...bodies))
        .proof()!
        .filter(({ state }) => state === 'pass').length;
    expect(passed(ohms(), volts())).toBeGreaterThan(0);
    expect(passed(ohms(SIMULATED_NAME), volts(SIMULATED_NAME))).toBe(0);
    const journal = played(symptom, ohms(SIMULATED_NAME));
    expect(engineReadings(journal)).toHaveLength(1);
    const { obstacles } = caseProgress(index, journal, solveHere(index, journal), true);
    expect(obstacles.join()).toMatch(/1 readings are of a simulated board/);
  });
});
