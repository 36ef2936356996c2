import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import {
  bleeder,
  CAUTIONS,
  DEFER,
  FINDING_RULES,
  FindingKind,
  fuseGate,
  fuseChecks,
  hazardsOf,
  isOnMains,
  ledgerObjection,
  lockedBy,
  MAINS_PEAK_VOLT,
  mainsNets,
  replacementObjection,
  replacementRemarks,
  storedCharges,
  type LedgerLine,
} from '@hanzai/core/bench';
import { supplyRails } from '@hanzai/core/device';
import {
  firstPowerObjection,
  powerAllowed,
  proofSteps,
  standing,
  shortsChecks,
} from '@hanzai/core/prove';
import { indexBoard } from '@hanzai/core/board';
import { Predictor } from '@hanzai/core/diagnosis';
import type { Reading } from '@hanzai/core/instrument';
import { isPolarised, marking, readSpec, verdictOf } from '@hanzai/core/part';
import { ARCHETYPES } from '@hanzai/data';
import { DEMO_BOARD_FILES, demoBoard } from '@hanzai/data/demo';
import { board, measurement } from './boards';

const NAMES = Object.keys(DEMO_BOARD_FILES) as (keyof typeof DEMO_BOARD_FILES)[];
const yc2 = indexBoard(demoBoard('yc2Whole'));
const partOf = (index: ReturnType<typeof indexBoard>, ref: string) =>
  index.partByKey.get(ref.toLowerCase())!;

describe('rails', () => {
  // What the sheets say in words: the board's own supplies, each with what hangs on it.
  it.each([
    ['yc2Whole', ['VRAW', 'P12', 'P5']],
    ['tl9', ['P12']],
    ['cr40Whole', ['P9F', 'VM', 'P5', 'P5A']],
    ['pd3If', ['P5', 'P12']],
    ['yc2', ['RAW', 'V12']],
  ] as const)('of %s follow transformer, rectifier and regulator', (name, wanted) => {
    const rails = supplyRails(indexBoard(demoBoard(name)));
    expect(rails).toEqual(expect.arrayContaining([...wanted]));
    expect(rails).not.toContain('IDLE');
    expect(rails).not.toContain('ACA');
  });
  it('of both signs are found, and none through a blocked diode', () => {
    const index = board(
      'V1 POS 0 12\nV2 0 NEG 12\nC1 POS 0 1u\nR9 POS 0 1k\nC2 NEG 0 1u\nR8 NEG 0 1k\nD1 POS AFTER DX\nC3 AFTER 0 1u\nR7 AFTER 0 1k\nD2 OTHER POS DX\nC4 OTHER 0 1u\nR6 OTHER 0 1k\n.model DX D',
    );
    expect(supplyRails(index)).toEqual(['POS', 'NEG', 'AFTER']);
  });
  it('every powered demo board has ohms to read before power, its primary among them', () => {
    for (const name of NAMES) {
      const index = indexBoard(demoBoard(name));
      expect(shortsChecks(index).length, name).toBeGreaterThan(0);
    }
    const points = shortsChecks(yc2).map(({ at, to }) => `${at.net} ${to.net}`);
    expect(points).toEqual(
      expect.arrayContaining(['LIVE NEUT', 'ACA 0', 'VRAW 0', 'P12 0', 'P5 0']),
    );
  });
});

describe('the first power after a repair', () => {
  const predictor = new Predictor(yc2);
  const good = shortsChecks(yc2).map((m): Reading => ({
    measurement: m,
    value: predictor.healthy(m).value === Infinity ? 'OL' : predictor.healthy(m).value,
  }));
  it('waits for every ohms check, the one that is missing named', () => {
    expect(firstPowerObjection(yc2, predictor, [], [])).toMatch(/read the ohms from LIVE to NEUT/);
    expect(firstPowerObjection(yc2, predictor, good, [])).toBeUndefined();
    for (let i = 0; i < good.length; i += 1)
      expect(firstPowerObjection(yc2, predictor, good.toSpliced(i, 1), [])).toMatch(
        /before the first power/,
      );
  });
  it('is refused where one of them is wrong', () => {
    const bad = good.map((reading, i) =>
      i === good.length - 1 ? { ...reading, value: 0.8 } : reading,
    );
    expect(firstPowerObjection(yc2, predictor, bad, [])).toMatch(
      /does not read what the good board shows/,
    );
  });
  it('stays locked where no rail is known', () => {
    const index = board('R1 A B 1k\nR2 B C 1k');
    expect(firstPowerObjection(index, new Predictor(index), [], [])).toMatch(
      /no rail of this board is known/,
    );
  });
});

describe('fuses of a mains unit', () => {
  const predictor = new Predictor(yc2);
  const ohms = (at: string, to: string, value: Reading['value']): Reading => ({
    measurement: measurement(yc2, 'resistance', at, to),
    value,
  });
  it('the mains fuse is asked for across the primary, not to isolated ground', () => {
    expect(fuseChecks(yc2, partOf(yc2, 'F1')).map(({ at, to }) => [at.net, to.net])).toEqual([
      ['PRI', 'NEUT'],
    ]);
    const gate = (...readings: Reading[]) => fuseGate(yc2, partOf(yc2, 'F1'), readings, predictor);
    expect(gate(ohms('PRI', '', 'OL'))).toMatchObject({ low: false });
    expect(gate(ohms('PRI', 'NEUT', 180))).toBeUndefined();
    expect(gate(ohms('NEUT', 'PRI', 180))).toBeUndefined();
    expect(gate(ohms('PRI', 'NEUT', 4))).toMatchObject({
      low: true,
      words: expect.stringContaining('why it blew'),
    });
  });
  it('the secondary fuse is asked for behind its rectifier too, where an ohmmeter does not see through', () => {
    expect(fuseChecks(yc2, partOf(yc2, 'F2')).map(({ at, to }) => [at.net, to.net])).toEqual([
      ['ACA', '0'],
      ['VRAW', '0'],
    ]);
    const gate = (vraw: number) =>
      fuseGate(yc2, partOf(yc2, 'F2'), [ohms('ACA', '', 'OL'), ohms('VRAW', '', vraw)], predictor);
    const belongs = predictor.healthy(measurement(yc2, 'resistance', 'VRAW')).value;
    expect(gate(belongs)).toBeUndefined();
    expect(gate(1.5)).toMatchObject({ low: true });
  });
});

describe('what is left on a capacitor', () => {
  it('lies at the peak of the mains plus a tenth, not at its rating', () => {
    // Source: IEC 60038, 230 V plus or minus 10 %.
    expect(MAINS_PEAK_VOLT).toBeCloseTo(357.8, 1);
    const charge = storedCharges(yc2).find(({ ref }) => ref === 'C1')!;
    expect(charge).toMatchObject({ from: 'mains', volt: MAINS_PEAK_VOLT });
    expect(isOnMains(yc2, partOf(yc2, 'C1'))).toBe(true);
    expect(isOnMains(yc2, partOf(yc2, 'C2'))).toBe(false);
    expect([...mainsNets(yc2)].sort()).toEqual(['live', 'livef', 'neut', 'neutp', 'pri']);
  });
  it('a switching supply has its primary reservoir on the mains, behind rectifier and transistor', () => {
    const switcher = board(
      'XF1 LIVE L2 FUSE\nXT9 A1 A2 S1 0 TRANSFORMER\nD1 L2 HV DX\nD2 NEUT HV DX\nD3 LOW L2 DX\nD4 LOW NEUT DX\nC1 HV LOW 100u\n*@ C1 kind=electrolytic volt=400\nQ1 P2 G LOW QN\nR1 G LOW 10k\nC9 P2 LOW 1n\nR7 S1 0 100\n.model DX D\n.model QN NPN\n*@ .hazard mains ref=F1 note=mains',
    );
    expect(isOnMains(switcher, partOf(switcher, 'C1'))).toBe(true);
    expect(storedCharges(switcher).find(({ ref }) => ref === 'C1')).toMatchObject({
      from: 'mains',
      volt: MAINS_PEAK_VOLT,
    });
    expect(isOnMains(switcher, partOf(switcher, 'R7'))).toBe(false);
  });
  it('a large one for high volts is taken at its rating where its supply is not on the sheet', () => {
    const part = (volts: number, value: string) =>
      board(
        `V1 P5 0 5\nR2 P5 0 1k\nC1 HV 0 ${value}\n*@ C1 kind=electrolytic volt=${volts}\nR1 HV 0 220k`,
      );
    expect(storedCharges(part(400, '100u'))[0]).toMatchObject({
      ref: 'C1',
      volt: 400,
      from: 'rating',
    });
    expect(hazardsOf(undefined, part(400, '100u'), []).some(({ key }) => key === 'charge-C1')).toBe(
      true,
    );
    // What is small, or rated for what touches no one, is not.
    expect(storedCharges(part(100, '100n'))).toEqual([]);
    expect(storedCharges(part(25, '100u'))).toEqual([]);
  });
  it('is led away only by what stays there when the fuse is blown', () => {
    const through = board('V1 A 0 100\nXF1 A B FUSE\nC1 B 0 100u\nR1 A 0 1k');
    const [charge] = storedCharges(through);
    expect(charge).toMatchObject({ pathOhm: undefined, seconds: undefined });
    const beside = board('V1 A 0 100\nXF1 A B FUSE\nC1 B 0 100u\nR1 B 0 1k');
    expect(storedCharges(beside)[0]!.pathOhm).toBeCloseTo(1000, 0);
    const winding = board('V1 A 0 100\nC1 A 0 100u\nXG1 A 0 WINDING\n*@ G1 dcr=50 henry=1');
    expect(storedCharges(winding)[0]!.seconds).toBeUndefined();
  });
  it('adds up with what stands in parallel, and an old electrolytic may hold half as much again', () => {
    // Closed form: two of 2200 uF with 10 k from 100 V to 60 V take 22.5 s; half as much again 33.7
    // s.
    const film = board('V1 A 0 100\nC1 A 0 2200u\nC2 A 0 2200u\nR1 A 0 10k');
    expect(storedCharges(film)[0]!.seconds).toBeCloseTo(4400e-6 * 1e4 * Math.log(100 / 60), 1);
    const old = board(
      'V1 A 0 100\nC1 A 0 2200u\n*@ C1 kind=electrolytic\nC2 A 0 2200u\n*@ C2 kind=electrolytic\nR1 A 0 10k',
    );
    expect(storedCharges(old)[0]!.seconds).toBeCloseTo(1.5 * 4400e-6 * 1e4 * Math.log(100 / 60), 1);
    expect(storedCharges(old)[0]!.together).toEqual(['C2']);
  });
  it('promises nothing: the words name the bleeder and ask for a reading', () => {
    const words = (index: typeof yc2): string =>
      hazardsOf(undefined, index, []).find(({ key }) => key.startsWith('charge-'))!.words;
    expect(words(yc2)).toMatch(/if its bleeder is whole; measure, and read again after a minute/);
    expect(words(board('V1 A 0 100\nC1 A 0 100u'))).toMatch(/may stay for days.*measure/);
    for (const name of NAMES)
      for (const { words: said } of hazardsOf(undefined, indexBoard(demoBoard(name)), []))
        expect(said).not.toMatch(/\bsafe\b|by itself$/);
  });
  it('no bleeder is proposed that cannot be held: the time is lengthened instead', () => {
    for (const volt of [20, 48, 90, 170, 325, 358, 420, 600])
      for (const farad of [1e-7, 1e-5, 2.2e-4, 4.7e-3, 0.05])
        for (const seconds of [0.01, 1, 10, 60]) {
          const found = bleeder(volt, farad, 12, seconds)!;
          expect(found.meanWatt).toBeLessThanOrEqual(found.ratedWatt * found.inSeries * 1.000001);
          expect(found.peakWatt).toBeLessThanOrEqual(
            5 * found.ratedWatt * found.inSeries * 1.000001,
          );
          expect(found.ratedWatt).toBeLessThanOrEqual(25);
          expect(volt / found.inSeries).toBeLessThanOrEqual(
            found.ratedWatt >= 10 ? 750 : found.ratedWatt >= 2 ? 500 : 350,
          );
          if (!found.lengthened) expect(found.seconds).toBeLessThanOrEqual(seconds * 1.000001);
          expect(
            volt * Math.exp(-found.seconds / (found.ohm * found.inSeries * farad)),
          ).toBeCloseTo(12, 6);
        }
    // 358 V on a tenth of a second through one resistor would take kilowatts.
    expect(bleeder(358, 220e-6, 12, 0.05)).toMatchObject({ lengthened: true });
  });
});

describe('what was seen', () => {
  it('locks hands in the case, and power too where it would burn or burst', () => {
    const lockedFor = (what: FindingKind, gate: 'power' | 'open'): boolean =>
      lockedBy(hazardsOf(undefined, undefined, [what]), [], gate).length > 0;
    for (const what of FindingKind.options.filter(
      (kind) => FINDING_RULES[kind].caution !== undefined,
    )) {
      expect(lockedFor(what, 'open'), what).toBe(true);
      expect(lockedFor(what, 'power'), what).toBe(
        what === 'cracked-line-filter' || what === 'bulged-capacitor',
      );
    }
  });
});

describe('what is read before the ohms', () => {
  it('proves nothing: no powered step has passed while power is locked', () => {
    const cr40 = indexBoard(demoBoard('cr40'));
    const predictor = new Predictor(cr40);
    const [rail] = supplyRails(cr40);
    const m = measurement(cr40, 'voltage', rail!);
    const proof = (value: number) =>
      proofSteps(cr40, predictor, {
        before: [],
        after: [{ measurement: m, value }],
        symptoms: [],
        answers: [],
      });
    const steps = proof(Number(predictor.healthy(m).value.toPrecision(4)));
    const loaded = (of: typeof steps) =>
      of.find(
        (step) =>
          step.stage === 'loaded' && step.type === 'measure' && step.measurement.at.net === rail,
      )!;
    expect(powerAllowed(steps)).toBe(false);
    expect(loaded(steps).state).toBe('pass');
    expect(loaded(standing(steps, false)).state).toBe('open');
    expect(loaded(standing(steps, true)).state).toBe('pass');
    // What failed stays failed.
    const bad = proof(0);
    expect(loaded(standing(bad, false)).state).toBe('fail');
  });
});

describe('what may go on', () => {
  const cr40 = indexBoard(demoBoard('cr40Whole'));
  const verdict = (index: typeof yc2, ref: string, text: string) =>
    verdictOf(replacementRemarks(index, ref, text));
  const line = (ref: string, value: string, note = '', polarityChecked = true): LedgerLine => ({
    ref,
    action: 'fitted',
    value,
    polarityChecked,
    note,
  });
  const off = (ref: string): LedgerLine[] => [
    { ref, action: 'removed', value: '', polarityChecked: false, note: '' },
  ];

  // Source: IEC 60127-1 for what the letters mean; that current, speed, volts and breaking capacity
  // are kept is common practice.
  it.each([
    ['T315mA 250V', undefined],
    ['T315mAL 250V', undefined],
    ['315mA slow 250 V', undefined],
    ['T250mA 250V', undefined],
    ['F315mA 250V', undefined],
    ['T630mA 250V', /more than/],
    ['F10A', /more than/],
    ['TT315mA 250V', /slower/],
    ['T315mA 125V', /below 250 V/],
    ['wire', /no fuse/],
    ['solder bridge', /no fuse/],
    ['T3.15A 250V', /more than/],
  ] as const)('a fuse T315mA 250V replaced by %s', (text, refused) => {
    const objection = ledgerObjection(yc2, off('F1'), line('F1', text, 'it was in the drawer'));
    if (refused) expect(objection).toMatch(refused);
    else expect(objection).toBeUndefined();
  });

  it('on the mains only X or Y class of at least the same kind', () => {
    // Source: IEC 60384-14.
    for (const text of ['100n 400V', '100n 630V film', '100n 275V', '100n'])
      expect(ledgerObjection(yc2, off('C1'), line('C1', text, 'it fits'))).toMatch(/IEC 60384-14/);
    expect(ledgerObjection(yc2, off('C1'), line('C1', '100n X2 275V'))).toBeUndefined();
    expect(ledgerObjection(yc2, off('C1'), line('C1', '100n X1 275V'))).toBeUndefined();
    expect(ledgerObjection(yc2, off('C1'), line('C1', '100n X3 275V', 'all there was'))).toMatch(
      /does not stand in/,
    );
    expect(ledgerObjection(yc2, off('C1'), line('C1', '100n X2 100V', 'all there was'))).toMatch(
      /below/,
    );
    // Whether it lies from line to line or to chassis the sheet does not say: not green.
    expect(verdict(yc2, 'C1', '100n X2 275V')).toBe('conditions');
    const y = board('V1 L 0 1\nC9 L PE 2.2n\n*@ C9 kind=ceramic volt=250 rating=Y2');
    expect(verdict(y, 'C9', '2n2 Y2 250V')).toBe('fits');
    expect(verdict(y, 'C9', '2n2 Y1 250V')).toBe('fits');
    expect(verdict(y, 'C9', '2n2 X1 250V')).toBe('no');
    expect(verdict(y, 'C9', '2n2 1kV ceramic')).toBe('no');
    // More of it from line to chassis is more current through a hand: no reason overrules that.
    // Less is only wrong.
    expect(replacementObjection(y, 'C9', '10n Y2 250V', 'all there was')).toMatch(
      /touches the chassis/,
    );
    expect(replacementObjection(y, 'C9', '1n Y2 250V', 'all there was')).toBeUndefined();
    // Below what stands on it is another thing than below what came off.
    const held = board('V1 A 0 24\nC1 A 0 100u\n*@ C1 kind=electrolytic volt=50');
    expect(replacementObjection(held, 'C1', '100u 16V electrolytic', 'all there was')).toMatch(
      /below the 24 V that stand on it/,
    );
    expect(
      replacementObjection(held, 'C1', '100u 35V electrolytic', 'all there was'),
    ).toBeUndefined();
  });

  it('what was not judged is never green', () => {
    for (const [ref, text] of [
      ['C1', '470u 16V'],
      ['C1', '470u 16V electrolytic'],
      ['F1', 'T1A'],
      ['R13', '220R'],
      ['U5', '358'],
      ['Q1', 'QNSMALL'],
      ['C1', 'as before'],
      ['R13', ''],
    ] as const)
      expect(verdict(cr40, ref, text), `${ref} ${text}`).toBe('conditions');
    expect(verdict(yc2, 'F1', 'T315mA 250V')).toBe('conditions');
    const known = board(
      'XF1 A B FUSE\n*@ F1 rating="T315mAL 250V"\nR1 B 0 10\n*@ R1 rating="2W fusible"',
    );
    expect(verdict(known, 'F1', 'T315mAL 250V')).toBe('fits');
    expect(verdict(known, 'R1', '10R 2W fusible')).toBe('fits');
    expect(replacementObjection(known, 'R1', '10R 2W', 'what I had')).toMatch(/fusible/);
    expect(verdict(known, 'R1', '10R 0.5W fusible')).toBe('no');
  });

  it('a polar part for a bipolar one, a lower voltage, a written ESR that is too high are stops that ask for a reason', () => {
    const bipolar = cr40.board.parts.find(
      (part) => part.kind === 'capacitor' && part.dielectric === 'bipolar',
    )!;
    const value = bipolar.kind === 'capacitor' ? `${bipolar.capacitanceFarad * 1e6}u` : '';
    for (const text of [
      `${value} 25V electrolytic`,
      `${value} 25V tantalum`,
      `${value} 25V ceramic`,
    ])
      expect(verdict(cr40, bipolar.ref, text)).toBe('no');
    expect(verdict(cr40, bipolar.ref, `${value} 50V film`)).not.toBe('no');
    expect(verdict(cr40, 'C1', '470u 16V electrolytic 2R esr')).toBe('no');
    expect(verdict(cr40, 'C1', '470u 16V electrolytic 0.05R esr')).toBe('conditions');
    expect(verdict(cr40, 'C1', '470u 10V')).toBe('no');
    expect(ledgerObjection(cr40, off('C1'), line('C1', '470u 10V'))).toMatch(/say why in the note/);
    expect(
      ledgerObjection(
        cr40,
        off('C1'),
        line('C1', '470u 10V', 'for a test only, on the bench supply at 5 V'),
      ),
    ).toBeUndefined();
    // 9 V on a tantalum of 10 V.
    expect(verdict(cr40, 'C1', '470u 16V tantalum')).toBe('no');
  });

  it('the marking follows what goes on, not what came off', () => {
    const c1 = partOf(cr40, 'C1');
    expect(marking(c1)).toMatchObject({ sign: 'stripe-minus', at: 'ground' });
    expect(marking(c1, readSpec('470u 16V tantalum'))).toMatchObject({
      sign: 'stripe-plus',
      at: 'VM',
      words: expect.stringContaining('PLUS'),
    });
    const film = cr40.board.parts.find(
      (part) => part.kind === 'capacitor' && part.dielectric === 'ceramic',
    )!;
    expect(marking(film)).toBeUndefined();
    expect(marking(film, readSpec('1u 25V electrolytic'))).toMatchObject({
      at: undefined,
      words: expect.stringContaining('read the volts'),
    });
    for (const kind of ['chip', 'regulator', 'amplifier', 'opto', 'diode', 'transistor'] as const) {
      const some = NAMES.flatMap((name) => indexBoard(demoBoard(name)).board.parts).find(
        (part) => part.kind === kind,
      );
      if (some)
        expect([kind, isPolarised(some), marking(some)!.words.length > 10]).toEqual([
          kind,
          true,
          true,
        ]);
    }
    expect(ledgerObjection(cr40, off('U5'), line('U5', '358', '', false))).toMatch(
      /which way round/,
    );
  });
});

describe('cautions', () => {
  const doc = readFileSync(new URL('../../docs/safety.md', import.meta.url), 'utf8');
  const said = [
    ...Object.values(CAUTIONS).map(({ words }) => words),
    ...Object.values(FINDING_RULES).flatMap(({ caution }) => caution ?? []),
    ...ARCHETYPES.flatMap((model) => [
      ...(model.hazards ?? []).map(({ note }) => note),
      ...(model.firstAid ?? []).flatMap(({ caution }) => caution ?? []),
      ...model.killChecks.flatMap(({ caution }) => caution ?? []),
    ]),
  ];
  it('each stands in docs/safety.md with its step and its source', () => {
    for (const [step, { source }] of Object.entries(CAUTIONS)) {
      const row = doc.split('\n').find((text) => text.split('|')[1]?.trim() === `\`${step}\``);
      expect(row, step).toBeDefined();
      expect(row).toContain(source);
    }
    // Every word that is said stands there, however the table is set.
    const plain = doc.replace(/\s+/g, ' ');
    for (const text of said) expect(plain).toContain(text.replace(/\s+/g, ' '));
    for (const kind of FindingKind.options)
      if (FINDING_RULES[kind].caution) expect(doc).toContain(`\`${kind}\``);
  });
  it('none promises safety, none is long, and what defers to local codes says so', () => {
    expect(said.length).toBeGreaterThan(50);
    for (const text of said) {
      expect(text).not.toMatch(/\b(is|are|then) safe\b|cannot hurt|no danger|harmless/i);
      expect(text.length, text).toBeLessThan(260);
      for (const sentence of text.split(/[.;:]/))
        expect(sentence.trim().split(/\s+/).length, sentence).toBeLessThan(27);
    }
    expect(DEFER).toMatch(/local codes.*qualified/);
    for (const step of [
      'probe-powered',
      'primary',
      'first-power',
      'before-ohms',
      'in-the-case',
      'bleeding',
      'burn-in',
    ] as const)
      expect(CAUTIONS[step].defer).toBe(true);
  });
  it('every kind of unit may have mains inside, and none relies on a lid switch', () => {
    for (const { name, hazards = [] } of ARCHETYPES) {
      expect([name, hazards.some(({ kind }) => kind === 'mains')]).toEqual([name, true]);
      expect([
        name,
        hazards.some(({ kind, volt = 0 }) => kind === 'stored-charge' && volt >= 350),
      ]).toEqual([name, true]);
    }
    const laser = ARCHETYPES.find(({ name }) => name === 'optical-disc-reader')!;
    expect(laser.hazards!.find(({ kind }) => kind === 'laser')!.note).toMatch(
      /treat it as on.*IEC 60825-1/,
    );
    expect(JSON.stringify(ARCHETYPES)).not.toMatch(/keeps the beam off/);
  });
  it('first aid with hands inside says power off, a motor is turned slowly', () => {
    for (const { firstAid = [] } of ARCHETYPES)
      for (const { name, title, caution = '' } of firstAid) {
        if (/^try a/.test(title)) continue;
        expect([name, /power off|unit off|slowly/.test(caution)]).toEqual([name, true]);
        if (/turn .* by hand|move the carriage/.test(title)) expect(caution).toMatch(/slowly/);
      }
  });
});
