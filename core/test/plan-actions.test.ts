import { describe, expect, it } from 'vitest';
import { Diagnoser, esrSurvey, symptomTable } from '../src/diagnosis';
import { parseFault } from '../src/fault';
import { BenchState, resolveMeasurement, type Measurement, type Reading } from '../src/instrument';
import { candidateMeasurements, judgeConclusive, planNext, shareCredit } from '../src/plan';
import { indexBoard } from '../src/board';
import { demoBoard } from '@hanzai/data/demo';
import { board, RATES } from './boards';

const CAPACITORS = `V1 VIN 0 12
L1 VIN V12 100u
*@ L1 dcr=0.5
C1 V12 0 470u
*@ C1 kind=electrolytic esr=0.05 fit=1990
C2 V12 0 10u
*@ C2 kind=electrolytic esr=0.8 fit=1990
R1 V12 OUT 1k
C3 OUT 0 10u
*@ C3 kind=electrolytic esr=0.8 fit=1990
R2 OUT 0 10k`;

function measure(index: ReturnType<typeof board>, kind: string, at: string, to = ''): Measurement {
  const result = resolveMeasurement(index, '', kind, at, to);
  if (!result.ok) throw new Error(result.what);
  return result.measurement;
}

/** What a sound meter reads with this fault on the board. */
function reading(
  index: ReturnType<typeof board>,
  kind: string,
  at: string,
  to: string,
  fault?: string,
): Reading {
  const m = measure(index, kind, at, to);
  const parsed = fault === undefined ? undefined : parseFault(index, fault);
  if (parsed && !parsed.ok) throw new Error(parsed.what);
  const response = new BenchState(index, {
    setup: m.setup,
    faults: parsed ? [{ fault: parsed.fault }] : [],
    absent: [],
  }).respond(m);
  if ('ok' in response) throw new Error(response.why);
  return {
    measurement: m,
    value: Number.isFinite(response.value) ? Number(response.value.toPrecision(4)) : 'OL',
  };
}

describe('what an ESR reading hides', () => {
  const survey = esrSurvey(board(CAPACITORS));
  const of = (ref: string): number =>
    survey.verdicts.find((verdict) => verdict.ref === ref)!.hiddenFactor;
  it('a small capacitor beside a large good one cannot be judged, one behind a resistor can', () => {
    expect(of('C2')).toBe(Infinity);
    expect(of('C3')).toBeLessThan(4);
    expect(survey.hidden).toContain('C2');
    expect(survey.verdicts.find(({ ref }) => ref === 'C2')!.together).toEqual(['C1']);
  });
  it('names the leg whose lifting settles most', () => {
    expect(survey.lift).toBeDefined();
    expect(survey.lift!.settles).toContain('C2');
  });
});

describe('conclusive or not', () => {
  // Field rule, common practice, no published source: a parallel path can only lower ohms; above
  // nominal or open is conclusive, nominal or below is not.
  const index = board('V1 A 0 5\nR1 A B 10k\nR2 B 0 1k\nR3 B 0 47');
  it('a high reading across a resistor is conclusive', () => {
    expect(
      judgeConclusive(index, reading(index, 'resistance', 'R1.1', 'R1.2', 'R1:drift-high'))
        ?.conclusive,
    ).toBe(true);
  });
  it('a nominal reading beside a low path is not, and the remedy is a lifted leg', () => {
    const conclusion = judgeConclusive(index, reading(index, 'resistance', 'R2.1', 'R2.2'))!;
    expect(conclusion.conclusive).toBe(false);
    expect(conclusion.remedy?.title).toContain('R2');
  });
  it('OL is conclusive', () =>
    expect(
      judgeConclusive(index, {
        measurement: measure(index, 'resistance', 'R1.1', 'R1.2'),
        value: 'OL',
      })?.conclusive,
    ).toBe(true));
  it('says nothing of a reading that is not across one part', () =>
    expect(judgeConclusive(index, reading(index, 'resistance', 'B', ''))).toBeUndefined());
});

describe('credit for a cure', () => {
  it('three changes that nobody weighed have a third each', () =>
    expect(
      shareCredit([{ ref: 'C1' }, { ref: 'C2' }, { ref: 'R1' }]).map(({ share }) => share),
    ).toEqual([1 / 3, 1 / 3, 1 / 3]));
  it('one change has all of it, and a suspect more than a bystander', () => {
    expect(shareCredit([{ ref: 'C1', believed: 0.4 }])).toEqual([{ ref: 'C1', share: 1 }]);
    const [suspect, bystander] = shareCredit([
      { ref: 'C1', believed: 0.6 },
      { ref: 'R9', believed: 0.03 },
    ]);
    expect(suspect!.share).toBeCloseTo(0.6 / 0.63, 9);
    expect(bystander!.share).toBeCloseTo(0.03 / 0.63, 9);
  });
});

describe('actions on one scale', () => {
  const index = board(CAPACITORS);
  const diagnoser = new Diagnoser(index, RATES);
  it('replacing leads where the suspect is certain, and comes with its reason', () => {
    const readings = [
      reading(index, 'esr', 'C3.1', 'C3.2', 'C3:high-esr'),
      reading(index, 'resistance', 'C3.1', 'C3.2', 'C3:high-esr'),
    ];
    const { actions } = planNext(diagnoser, readings, diagnoser.believe(readings));
    expect(actions[0]).toMatchObject({ kind: 'replace', refs: ['C3'] });
    expect(actions[0]!.reason).toMatch(/cures with \d+ %/);
  });
  it('a reading leads while the field is open, and every action has its expected minutes', () => {
    const { actions, measurements } = planNext(diagnoser, [], diagnoser.believe([]));
    expect(actions[0]!.kind).toBe('measure');
    // Work does not lead before anything is known, however often its parts fail; behind the
    // readings it stands by its minutes.
    const work = actions.filter(({ kind }) => kind !== 'measure');
    expect(work.length).toBeGreaterThan(2);
    expect(actions.slice(actions.length - work.length)).toEqual(work);
    expect(actions.every(({ expectedMinutes, minutes }) => expectedMinutes >= minutes)).toBe(true);
    expect(measurements[0]!.reason).toMatch(/bit for/);
  });
});

describe('symptoms', () => {
  const index = indexBoard(demoBoard('tl9'));
  const table = symptomTable(index, RATES);
  it('point from what is seen to what is behind it', () => {
    const lamp = table.find(({ name }) => name === 'lamp-lit')!;
    expect(lamp.healthy).toBe('yes');
    expect(lamp.suspects.slice(0, 4).map(({ ref }) => ref)).toEqual(
      expect.arrayContaining(['F1', 'R31', 'D6']),
    );
    for (const { suspects } of table)
      expect(suspects.reduce((sum, { probability }) => sum + probability, 0)).toBeCloseTo(1, 1);
  });
  it('count as readings: a dark lamp clears what would have left it lit', () => {
    const diagnoser = new Diagnoser(index, RATES);
    const lamp = candidateMeasurements(index, ['symptom']).find(
      ({ observable }) => observable?.name === 'lamp-lit',
    )!;
    const belief = diagnoser.believe([{ measurement: lamp, value: 'no' }]);
    const share = (ref: string): number =>
      belief.byPart.find((part) => part.ref === ref)!.probability;
    expect(share('F1')).toBeGreaterThan(0.15);
    expect(share('C10')).toBeLessThan(share('F1') / 5);
  });
});

describe('how a reading may come out', () => {
  it.each([
    ['cr40Whole', [['voltage', 'VM', 0.01]]],
    ['pd3Rw', []],
    ['tl9', [['voltage', 'V9Z', 0.1]]],
  ] as const)(
    '%s: no two prospects look alike, and none of them promises nothing',
    (name, taken) => {
      const index = indexBoard(demoBoard(name));
      const readings = taken.map(([kind, at, value]): Reading => ({
        measurement: measure(index, kind, at),
        value,
      }));
      const diagnoser = new Diagnoser(index, RATES);
      const { measurements: proposals } = planNext(
        diagnoser,
        readings,
        diagnoser.believe(readings),
      );
      expect(proposals.length).toBeGreaterThan(2);
      for (const { prospects } of proposals) {
        const displays = prospects.map(({ display }) => display);
        expect(new Set(displays).size).toBe(displays.length);
        expect(prospects.reduce((sum, { probability }) => sum + probability, 0)).toBeLessThan(
          1 + 1e-9,
        );
        for (const { leading } of prospects) {
          const shares = leading.map(({ probability }) => probability);
          expect(shares).toEqual([...shares].sort((a, b) => b - a));
        }
      }
    },
  );
});

describe('with no evidence at all', () => {
  it('the first question is what the unit does; after a reading it is what tells most', () => {
    const index = indexBoard(demoBoard('cr40Whole'));
    const diagnoser = new Diagnoser(index, RATES);
    const first = planNext(diagnoser, [], diagnoser.believe([]));
    expect(first.measurements[0]!.kind).toBe('symptom');
    const kinds = first.measurements.map(({ kind }) => kind);
    expect(kinds.lastIndexOf('symptom')).toBeLessThan(
      kinds.findIndex((kind) => kind !== 'symptom'),
    );
    // Where it is not wanted it is not asked.
    expect(
      planNext(diagnoser, [], diagnoser.believe([]), {
        allow: ['voltage', 'resistance'],
      }).measurements.some(({ kind }) => kind === 'symptom'),
    ).toBe(false);
    const dead: Reading[] = [{ measurement: measure(index, 'voltage', 'VM'), value: 0.01 }];
    expect(planNext(diagnoser, dead, diagnoser.believe(dead)).measurements[0]!.kind).not.toBe(
      'symptom',
    );
  });
});
