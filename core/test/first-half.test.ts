import { describe, expect, it } from 'vitest';
import { comparePinOuts, type ConnectorPin } from '@hanzai/core/board';
import {
  accessMinutes,
  backObjection,
  bleeder,
  calledChecks,
  hazardsOf,
  lockedBy,
  lookFactors,
  reassemblyList,
  screwBalance,
  secondsTo,
  shortestWayToTest,
  storedCharges,
  storedJoule,
  touchedParts,
  urgencyOf,
  voltAfter,
  type LoggedStep,
  type PlacedFinding,
} from '@hanzai/core/bench';
import {
  believeBlocks,
  bitsPerTurn,
  capacityBytes,
  cleanStartsAtRate,
  cleanStartsNeeded,
  decodeTaps,
  exactTest,
  expectedAnomalies,
  explainedBy,
  failureRate,
  forecast,
  rankAids,
  rateLeftOpen,
  testConditions,
} from '@hanzai/core/block';
import { indexBoard } from '@hanzai/core/board';
import { ARCHETYPES, DISK_GEOMETRIES } from '@hanzai/data';
import { demoBoard } from '@hanzai/data/demo';
import { board } from './boards';

const archetype = (name: string) => ARCHETYPES.find((model) => model.name === name)!;
const disk = (name: string) => DISK_GEOMETRIES.find((one) => one.name === name)!;

describe('a capacitor that is left to itself', () => {
  // Source: closed form; share left after whole time constants as every table of them prints it
  // (36.8, 13.5, 5.0, 1.8, 0.7 %).
  it.each([
    [1, 0.368],
    [2, 0.135],
    [3, 0.0498],
    [4, 0.0183],
    [5, 0.0067],
  ])('has after %d time constants %d of its volts', (n, share) => {
    expect(voltAfter(100, 10_000, 47e-6, n * 0.47) / 100).toBeCloseTo(share, 3);
  });
  it('time and volts are inverse to each other', () => {
    for (const volt of [5, 40, 120])
      expect(voltAfter(325, 1e5, 1e-6, secondsTo(325, volt, 1e5, 1e-6))).toBeCloseTo(volt, 9);
    expect(secondsTo(12, 60, 1e3, 1e-3)).toBe(0);
  });
  it('its energy is what a bleeder takes up', () => {
    // Integral of V^2/R over time, by steps, against half C V squared.
    const [volt, ohm, farad, dt] = [200, 1000, 1e-4, 1e-5];
    let taken = 0;
    for (let t = dt / 2; t < 20 * ohm * farad; t += dt)
      taken += (voltAfter(volt, ohm, farad, t) ** 2 / ohm) * dt;
    expect(taken).toBeCloseTo(storedJoule(volt, farad), 3);
  });
  it('the bleeder reaches the safe voltage in the time allowed, with a value of the E12 series and a rating above its mean power', () => {
    const found = bleeder(325, 220e-6, 12, 10)!;
    expect(found).toMatchObject({ ohm: 12_000, inSeries: 1, lengthened: false });
    expect(found.seconds).toBeLessThanOrEqual(10);
    expect(found.peakWatt).toBeCloseTo(325 ** 2 / 12_000, 6);
    expect(found.ratedWatt).toBeGreaterThanOrEqual(found.meanWatt);
    expect(bleeder(10, 1e-3, 12, 5)).toBeUndefined();
  });
  it('is found on a board with what leads its charge away', () => {
    const index = board(
      'V1 IN 0 48\nXJ1 IN A PIN\nC1 A 0 2200u\nR1 A 0 22k\nC2 B 0 100n\nR2 A B 1k',
    );
    const [charge] = storedCharges(index);
    expect(charge).toMatchObject({ ref: 'C1', from: 'circuit', seconds: 0 });
    expect(charge!.volt).toBeCloseTo(48, 1);
    expect(charge!.joule).toBeCloseTo(0.5 * 2200e-6 * 48 ** 2, 1);
    expect(charge!.pathOhm! / 22_000).toBeCloseTo(1, 1);
  });
});

describe('starts of a unit that fails now and then', () => {
  // Source: the binomial; the round figures are common practice.
  it.each([
    [0.3, 9],
    [0.2, 14],
    [0.1, 29],
    [0.5, 5],
  ])('a fault of %d of the starts needs %d clean ones', (rate, starts) => {
    expect(cleanStartsAtRate(rate)).toBe(starts);
    expect((1 - rate) ** starts).toBeLessThanOrEqual(0.05);
    expect((1 - rate) ** (starts - 1)).toBeGreaterThan(0.05);
  });
  // Source: the beta-binomial distribution with a uniform prior, summed here over rates by the
  // midpoint rule. After one failed start 5, after three of ten 11.
  it.each([
    [1, 1, 5],
    [3, 10, 11],
    [2, 2, 3],
    [1, 20, 60],
    [5, 5, 2],
  ])('%d failed of %d starts ask for about %d clean ones', (failed, total, about) => {
    const needed = cleanStartsNeeded(failed, total);
    const chance = (n: number): number => {
      let [clean, all] = [0, 0];
      for (let p = 0.0005; p < 1; p += 0.001) {
        const weight = p ** failed * (1 - p) ** (total - failed);
        all += weight;
        clean += weight * (1 - p) ** n;
      }
      return clean / all;
    };
    expect(chance(needed)).toBeLessThanOrEqual(0.0501);
    expect(chance(needed - 1)).toBeGreaterThan(0.0499);
    if (total <= 10) expect(needed).toBe(about);
  });
  it('one of many conditions is not believed for being the luckiest of them', () => {
    // Source: S. Holm, 1979: the smallest of m chances is multiplied by m, the next by m - 1.
    const starts = Array.from({ length: 12 }, (_, n) => ({
      clean: n % 2 === 0,
      conditions: [
        ...(n < 5 && n % 2 === 1 ? ['a'] : []),
        ...['b', 'c', 'd', 'e', 'f', 'g'].filter((_, k) => (n >> (k % 4)) & 1),
      ],
    }));
    const tests = testConditions(starts);
    // Seven conditions, of which two pairs are the same starts by another name: five tests.
    expect(tests[0]!.corrected).toBeCloseTo(Math.min(1, tests[0]!.chance * 5), 9);
    for (let i = 1; i < tests.length; i += 1)
      expect(tests[i]!.corrected).toBeGreaterThanOrEqual(tests[i - 1]!.corrected);
  });
  it('so many clean starts leave about three over their number open', () => {
    for (const n of [20, 50, 200]) expect(rateLeftOpen(n) * n).toBeCloseTo(3, 0);
    expect(rateLeftOpen(0)).toBe(1);
  });
  it('the exact test gives the published value of the tea-tasting table', () => {
    // Source: R. A. Fisher, The Design of Experiments, 1935, ch. 2: 3 of 4 cups right each way,
    // 34/70 two-sided; all right, 2/70.
    expect(exactTest(3, 1, 1, 3)).toBeCloseTo(34 / 70, 9);
    expect(exactTest(4, 0, 0, 4)).toBeCloseTo(2 / 70, 9);
    expect(exactTest(0, 0, 3, 2)).toBe(1);
  });
  it('the condition that goes with the fault comes first', () => {
    const starts = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9].map((n) => ({
      clean: n % 2 === 0,
      conditions: [...(n % 2 === 1 ? ['cold'] : []), ...(n % 3 === 0 ? ['lid on'] : [])],
    }));
    const [first, second] = testConditions(starts);
    expect(first).toMatchObject({
      condition: 'cold',
      verdict: 'fails with it',
      withFailed: 5,
      withoutFailed: 0,
    });
    expect(second!.verdict).toBe('no telling');
    expect(failureRate(starts)).toBeCloseTo(0.5, 9);
  });
});

describe('what a start says', () => {
  const model = archetype('flexible-disk-unit');
  it('taps along with a lamp give its code, repeats and all', () => {
    // 3 blinks, pause, 1 blink; three times over, with uneven fingers.
    const moments = [0, 1, 2].flatMap((n) =>
      [0, 310, 590, 1700].map((t) => 5200 * n + t + 13 * ((n * 7 + t) % 5)),
    );
    expect(decodeTaps(moments)).toMatchObject({ code: '3-1', agreement: 1 });
    expect(decodeTaps([0, 300, 600, 2200, 2500, 2800, 4400, 4700, 5000])!.code).toBe('3');
    expect(decodeTaps([0])).toBeUndefined();
  });
  it('what a condition explains by itself is masked, and nothing else', () => {
    const masked = expectedAnomalies(model, ['no-host']);
    expect(explainedBy(masked, 'stage', 'host')).toMatch(/no host/);
    expect(explainedBy(masked, 'stage', 'home')).toBeUndefined();
    expect(expectedAnomalies(model, [])).toEqual([]);
  });
  it('first aid goes by chance over minutes, and what did not help loses its place', () => {
    const evidence = [{ type: 'stage', failedAt: 'read' }] as const;
    const before = rankAids(model, believeBlocks(model, evidence), new Set());
    for (let i = 1; i < before.length; i += 1)
      expect(before[i - 1]!.perMinute).toBeGreaterThanOrEqual(before[i]!.perMinute);
    const tried = before.find(({ name }) => name === 'clean-heads')!;
    const after = believeBlocks(model, [
      ...evidence,
      { type: 'aid', block: tried.block, cures: tried.cures, cured: false },
    ]);
    const of = (belief: ReturnType<typeof believeBlocks>): number =>
      belief.byBlock.find(({ block }) => block === 'head-dirt')!.probability;
    expect(of(after)).toBeLessThan(of(believeBlocks(model, evidence)));
    expect(rankAids(model, after, new Set(['clean-heads'])).at(-1)!.name).toBe('clean-heads');
  });
});

describe('a medium in a drive that is set another way', () => {
  // Source: ISO/IEC 9529, ISO 8860, ISO 8630, ISO 7487 (ECMA-125, -100, -99, -70): capacities, and
  // flux transitions per radian of 15 916, 7 958 and 13 262.
  it.each([
    ['3.5 inch high density', 1_474_560, 15_916],
    ['3.5 inch double density', 737_280, 7_958],
    ['5.25 inch high density', 1_228_800, 13_262],
    ['5.25 inch, 40 tracks', 368_640, 7_958],
  ] as const)('%s holds %d bytes at %d transitions per radian', (name, bytes, perRadian) => {
    expect(capacityBytes(disk(name))).toBe(bytes);
    expect(bitsPerTurn(disk(name)) / (2 * Math.PI) / perRadian).toBeCloseTo(1, 2);
  });
  it('15 sectors set on a medium of 18: a sixth of each track is out of reach, short files pass, long ones fail', () => {
    const set = { ...disk('3.5 inch high density'), sectorsPerTrack: 15 };
    const { outOfReach, operations, mismatches } = forecast(set, disk('3.5 inch high density'));
    expect(outOfReach).toBeCloseTo(1 / 6, 9);
    expect(mismatches[0]!.words).toMatch(/1\/6 of each track/);
    const works = Object.fromEntries(operations.map(({ name, works }) => [name, works]));
    expect(works).toMatchObject({
      'list the directory': 'yes',
      'read a short file': 'yes',
      'read a long file': 'in part',
      'read the whole medium': 'no',
    });
  });
  it('half the rate is not read at all; the same layout is read whole', () => {
    expect(
      forecast(disk('3.5 inch double density'), disk('3.5 inch high density')).outOfReach,
    ).toBe(1);
    expect(forecast(disk('5.25 inch high density'), disk('5.25 inch high density'))).toMatchObject({
      mismatches: [],
      outOfReach: 0,
    });
  });
});

describe('two connectors side by side', () => {
  const pin = (
    number: number,
    name: string,
    use: ConnectorPin['use'],
    more: Partial<ConnectorPin> = {},
  ): ConnectorPin => ({
    pin: String(number),
    name,
    use,
    ...more,
  });
  const mine = {
    title: 'drive',
    pins: [
      pin(1, '+5V', 'supply', { volt: 5 }),
      pin(2, 'GND', 'ground'),
      pin(3, 'READY', 'open-collector'),
      pin(4, 'STEP', 'input'),
      pin(5, 'TYPE', 'identity'),
    ],
  };
  const theirs = {
    title: 'host',
    pins: [
      pin(1, 'GND', 'ground'),
      pin(2, 'STEP', 'output'),
      pin(3, 'READY', 'input'),
      pin(4, '+5V', 'supply', { volt: 5 }),
      pin(6, 'X', 'empty'),
    ],
  };
  const { clashes, wiring, measureFirst } = comparePinOuts(mine, theirs);
  it('supply on ground comes first, then lines that lack something', () => {
    expect(clashes[0]).toMatchObject({ pin: '1', level: 'harm' });
    expect(clashes.map(({ words }) => words).join('\n')).toMatch(
      /a signal pin gets the supply[^]*no pull-up[^]*identity line TYPE/,
    );
  });
  it('the wiring joins lines by name and cuts what has no partner', () => {
    expect(wiring.map(({ from, to }) => [from, to])).toEqual([
      ['1', '4'],
      ['2', '1'],
      ['3', '3'],
      ['4', '2'],
      ['5', undefined],
    ]);
    expect(measureFirst.some((line) => line.includes('pin 1 (+5V)'))).toBe(true);
  });
  it('a straight pair of the same kind has nothing to say', () => {
    expect(
      comparePinOuts(
        { title: 'a', pins: [pin(1, 'A', 'output')] },
        { title: 'b', pins: [pin(1, 'A', 'input')] },
      ).clashes,
    ).toEqual([]);
  });
});

describe('opened up', () => {
  let made = 0;
  const step = (more: Partial<LoggedStep>): LoggedStep => ({
    id: String((made += 1)),
    what: 'fastener',
    of: 'lid',
    name: 'M3 pan',
    count: 1,
    way: '',
    frees: [],
    forTest: false,
    note: '',
    back: 0,
    ...more,
  });
  const steps = [
    step({ count: 4, lengthMm: 6 }),
    step({ what: 'lift', of: 'lid', name: '', frees: ['F1', 'J1'] }),
    step({ of: 'board', count: 2, lengthMm: 10, forTest: true }),
    step({ what: 'plug', of: 'board', name: 'P3 motor', forTest: true }),
    step({ what: 'lift', of: 'board', name: '', frees: ['board'] }),
  ];
  it('goes back in the other order, with the longer screw named', () => {
    const lines = reassemblyList(steps);
    expect(lines.map(({ step: { id } }) => id)).toEqual([...steps].reverse().map(({ id }) => id));
    expect(lines.at(-1)!.cautions.join()).toMatch(
      /10 mm ones of board fit this thread and are too long/,
    );
    expect(backObjection(steps, steps[0]!.id, 1, 10)).toMatch(/comes through/);
    expect(backObjection(steps, steps[0]!.id, 5)).toMatch(/too many/);
    expect(backObjection(steps, steps[1]!.id, 1)).toMatch(/board lies inside/);
    expect(backObjection(steps, steps[0]!.id, 4, 6)).toBeUndefined();
  });
  it('balances its screws by kind and length', () => {
    expect(screwBalance(steps)).toEqual([
      { name: 'M3 pan', lengthMm: 6, out: 4, back: 0 },
      { name: 'M3 pan', lengthMm: 10, out: 2, back: 0 },
    ]);
  });
  it('the shortest way to a test leaves the lid off', () => {
    const { lines, minutes } = shortestWayToTest(steps);
    expect(lines.map(({ step: { what, of } }) => `${what} ${of}`)).toEqual([
      'lift board',
      'plug board',
      'fastener board',
    ]);
    expect(minutes).toBeCloseTo(0.8 + 0.3 + 0.8, 9);
  });
  it('says what it costs to reach a part', () => {
    expect(accessMinutes(steps, 0, ['f1'])).toBeCloseTo(1.6 + 0.8, 9);
    expect(accessMinutes(steps, 2, ['F1'])).toBe(0);
    expect(accessMinutes(steps, 2, ['U7'])).toBeCloseTo(0.8 + 0.3 + 0.8, 9);
  });
});

describe('what was seen on the board', () => {
  const index = indexBoard(demoBoard('cr40Whole'));
  const placed = index.board.parts.find(
    ({ positionMm, kind }) => positionMm && kind === 'capacitor',
  )!;
  const [x, y] = placed.positionMm!;
  const leak = (more: Partial<PlacedFinding> = {}): PlacedFinding => ({
    id: 'f',
    what: 'leak',
    xMm: x,
    yMm: y,
    sizeMm: 4,
    certainty: 1,
    ...more,
  });
  it('raises what lies in it most, less with distance and with doubt', () => {
    const touched = touchedParts(index, [leak()]);
    const own = touched.find(({ ref }) => ref === placed.ref)!;
    expect(own.factor).toBeGreaterThan(6);
    expect(touched.every(({ factor }) => factor <= 8.001 && factor >= 1)).toBe(true);
    expect(
      touchedParts(index, [leak({ certainty: 0.3 })]).find(({ ref }) => ref === placed.ref)!.factor,
    ).toBeLessThan(own.factor);
    expect(lookFactors(touched).get(placed.ref)).toBeCloseTo(own.factor, 9);
  });
  it('what runs down reaches further below than above', () => {
    const reach = (dy: number): number =>
      touchedParts(index, [leak({ yMm: y - dy, sizeMm: 0 })]).find(({ ref }) => ref === placed.ref)
        ?.factor ?? 1;
    expect(reach(10)).toBeGreaterThan(reach(-10));
    const turned = (down: 'top' | 'flat'): number =>
      touchedParts(index, [leak({ yMm: y + 10, sizeMm: 0, down })]).find(
        ({ ref }) => ref === placed.ref,
      )?.factor ?? 1;
    expect(turned('top')).toBeCloseTo(reach(10), 9);
    expect(turned('flat')).toBeCloseTo(reach(-10), 9);
  });
  it('calls for continuity between pins of one net, the nearest to it first', () => {
    const checks = calledChecks(index, [leak()]);
    expect(checks.length).toBeGreaterThan(0);
    for (let i = 1; i < checks.length; i += 1)
      expect(checks[i - 1]!.value).toBeGreaterThanOrEqual(checks[i]!.value);
    for (const { at, to } of checks) expect(at).not.toBe(to);
  });
});

describe('what can hurt', () => {
  it('comes from the model, the board and the eye, and locks its steps until acknowledged', () => {
    const hazards = hazardsOf(
      archetype('stepper-carriage'),
      board('V1 IN 0 90\nXJ1 IN A PIN\nC1 A 0 1000u\nR1 A 0 100k'),
      ['leak'],
    );
    expect(new Set(hazards.map(({ from }) => from)).size).toBe(3);
    const charge = hazards.find(({ key }) => key === 'charge-C1')!;
    expect(charge.words).toMatch(/C1 holds 90 V/);
    const open = lockedBy(hazards, [], 'open');
    expect(open.map(({ hazard }) => hazard)).toContain(charge);
    const all = hazards.map(({ key }) => ({ hazard: key, who: 'T.' }));
    // Acknowledged is not discharged: what can bite is asked for by its volts, below 60 before
    // hands, below 2 before ohms.
    const biting = hazards.filter(({ charge: own }) => own && own.volt > 60).map(({ key }) => key);
    expect(biting).toEqual(expect.arrayContaining(['charge-C1', 'unit-line-filter']));
    expect(lockedBy(hazards, all, 'open').map(({ hazard, need }) => [hazard.key, need])).toEqual(
      biting.map((key) => [key, 'measure']),
    );
    const read = (volt: number, current = true) =>
      biting.map((hazard) => ({ hazard, volt, current }));
    expect(lockedBy(hazards, all, 'open', read(40))).toEqual([]);
    expect(lockedBy(hazards, all, 'meter', read(40))).toHaveLength(biting.length);
    expect(lockedBy(hazards, all, 'meter', read(1.5))).toEqual([]);
    expect(lockedBy(hazards, all, 'open', read(1.5, false))).toHaveLength(biting.length);
    expect(lockedBy(hazards, all, 'power')).toEqual([]);
    expect(lockedBy(hazards, [], 'power').length).toBeGreaterThan(0);
  });
  it('what only a look tells can be looked for and not be there; what is known to be there cannot', () => {
    const hazards = hazardsOf(archetype('powered-board'), undefined, []);
    const away = hazards.map(({ key }) => ({ hazard: key, who: 'T.', notHere: true }));
    for (const gate of ['open', 'meter', 'power'] as const)
      expect(lockedBy(hazards, away, gate)).toEqual([]);
    expect(
      lockedBy(
        hazards,
        away.map(({ hazard, who }) => ({ hazard, who })),
        'meter',
      ).length,
    ).toBe(2);
    const sure = hazardsOf(archetype('stepper-carriage'), undefined, []);
    expect(
      lockedBy(
        sure,
        sure.map(({ key }) => ({ hazard: key, who: 'T.', notHere: true })),
        'meter',
      ).length,
    ).toBe(1);
  });
});

it('the docket goes by slack: late before due, due before undated, waiting last, a timer that ran out first of all', () => {
  const one = (more: object): number =>
    urgencyOf({
      state: 'open',
      promisedInDays: undefined,
      ageDays: 5,
      timerDue: false,
      paused: false,
      minutesToGo: 60,
      ...more,
    }).score;
  const order = [
    one({ state: 'waiting', timerDue: true }),
    one({ promisedInDays: -3 }),
    one({ promisedInDays: 2 }),
    one({}),
    one({ state: 'waiting', promisedInDays: 2 }),
    one({ state: 'closed' }),
  ];
  expect([...order].sort((a, b) => b - a)).toEqual(order);
});
