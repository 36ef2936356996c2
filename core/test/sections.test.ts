import { LIBRARY, RATES, SECTIONS } from '@hanzai/data';
import { describe, expect, it } from 'vitest';
import {
  describeIssue,
  indexBoard,
  readSheetLines,
  sectionLines,
  writeSheet,
  type BoardIndex,
} from '../src/board';
import { Diagnoser, Predictor } from '../src/diagnosis';
import { BenchState, readout, withinBand } from '../src/instrument';
import { candidateMeasurements } from '../src/plan';

// Every section stands by itself: it is read, solved, and each fault of its own parts shows at some
// point of it. Those that show nowhere are named here, so that nobody thinks they were forgotten.

function indexOf({ sheet, feed }: (typeof SECTIONS)[number]): BoardIndex {
  const renumbered = feed.replace(
    /^([A-Z]+)(\d+)/gm,
    (_, letters: string, n: string) => `${letters}9${n.padStart(2, '0')}`,
  );
  const { board, issues } = readSheetLines(`title x\n${sheet}\n${renumbered}`, LIBRARY);
  expect(issues.map(describeIssue)).toEqual([]);
  return indexBoard(board);
}

/**
 * Faults of a section's own parts that no reading of it shows. Not asked for: a pin of a chip stuck
 * at the level that it has (another state shows it), and lost farads (no meter here reads them).
 */
function silentOf(index: BoardIndex): string[] {
  const predictor = new Predictor(index);
  const all = candidateMeasurements(index);
  const shows = (hypothesis: Parameters<Predictor['under']>[0]): boolean =>
    all.some((m) => {
      const healthy = readout(m.kind, predictor.healthy(m));
      return predictor.under(hypothesis, m).some((one) => {
        const { value } = readout(m.kind, one);
        return value !== undefined && !withinBand(value, healthy);
      });
    });
  return new Diagnoser(index, RATES).space.hypotheses
    .filter(
      (one) =>
        one.type === 'single' &&
        one.fault.type === 'mode' &&
        !/^[A-Z]+9\d\d/.test(one.fault.part.ref),
    )
    .filter((one) => !shows(one))
    .map(({ name }) => name)
    .filter((name) => !/^U\d+\.\d+:|low-capacitance$/.test(name));
}

describe('the library of sections', () => {
  it('has at least thirty, each by its own name, with ports, patterns and feed', () => {
    expect(SECTIONS.length).toBeGreaterThanOrEqual(30);
    expect(new Set(SECTIONS.map(({ name }) => name)).size).toBe(SECTIONS.length);
    for (const { name, ports, fails, sheet } of SECTIONS) {
      expect(Object.keys(ports).length, name).toBeGreaterThan(0);
      expect(fails.length, name).toBeGreaterThan(0);
      for (const port of Object.keys(ports))
        expect(sheet, name).toMatch(new RegExp(`[\\s=]${port}(?=\\s|$)`));
    }
  });

  it.each(SECTIONS.map((section) => [section.name, section] as const))(
    '%s is read and solved',
    (_, section) => {
      const index = indexOf(section);
      const state = new BenchState(index, { setup: 'on', faults: [], absent: [] });
      const volts = state.netVolts();
      expect('ok' in volts ? volts : undefined).toBeUndefined();
    },
  );

  it.each(SECTIONS.map((section) => [section.name, section] as const))(
    '%s shows its faults',
    (name, section) => {
      expect(silentOf(indexOf(section))).toEqual(SILENT[name] ?? []);
    },
  );
});

describe('a section put into a sheet', () => {
  const board = readSheetLines(
    'title x\nV1 VCC 0 5V\nR7 VCC RSTRC 1k\nC3 RSTRC 0 1u\nU2 74LS00 1=VCC 7=0 14=VCC',
    LIBRARY,
  ).board;
  it.each(SECTIONS.map((section) => [section.name, section] as const))(
    '%s gets names of its own, twice over, and stays what it is',
    (_, section) => {
      const alone = readSheetLines(section.sheet, LIBRARY).board;
      let text = writeSheet(board, LIBRARY);
      for (let i = 0; i < 2; i += 1)
        text += sectionLines(section, readSheetLines(text, LIBRARY).board, {}, LIBRARY);
      const { board: whole, issues } = readSheetLines(text, LIBRARY);
      expect(issues.map(describeIssue)).toEqual([]);
      expect(whole.parts).toHaveLength(board.parts.length + 2 * alone.parts.length);
      const kinds = (parts: typeof whole.parts): string[] => parts.map(({ kind }) => kind).sort();
      expect(kinds(whole.parts.slice(-alone.parts.length))).toEqual(kinds(alone.parts));
    },
  );
  it('joins the board by its ports, and nowhere else', () => {
    const reset = SECTIONS.find(({ name }) => name === 'reset')!;
    const lines = sectionLines(reset, board, { P5: 'VCC', RES: 'RESET' }, LIBRARY);
    const { parts } = readSheetLines(lines, LIBRARY).board;
    expect(parts.map(({ ref }) => ref)).toEqual(['R8', 'C4', 'D1', 'U3']);
    // RSTRC is the board's already: the section's own is another net.
    expect(parts[0]!.pins).toEqual(['VCC', 'RSTRC_2']);
    expect(parts[3]!.pins.slice(0, 4)).toEqual(['RSTRC_2', 'RSTN', 'RSTN', 'RESET']);
    expect(parts.every(({ section }) => section === reset.title)).toBe(true);
  });
});

/**
 * Why: a capacitor beside a larger one, a protection diode that conducts only when something else goes
 * wrong, a switch that sticks as it rests (its setup shows it), a part whose loss its neighbour hides.
 */
const SILENT: Readonly<Record<string, readonly string[]>> = {
  'supply-entry': ['C1:open', 'D1:open', 'C3:open', 'C3:high-esr'],
  'rectifier-reservoir': ['C2:open', 'C2:high-esr'],
  'regulator-positive': ['C2:open', 'C2:high-esr'],
  'regulator-negative': ['C2:open', 'C2:high-esr'],
  'regulator-discrete': ['C3:open', 'C3:high-esr'],
  'step-down': ['D1:open', 'L1:short'],
  decoupling: [
    'C1:open',
    'C2:open',
    'C2:high-esr',
    'C3:open',
    'C3:high-esr',
    'C4:open',
    'C4:high-esr',
  ],
  'address-switch': ['S1:open', 'S2:stuck-closed'],
  'bus-line': ['U1:dead'],
  'serial-bus': ['U1:dead'],
  processor: ['U2:no-supply', 'U2:dead', 'C1:open', 'C1:high-esr', 'C2:open'],
  solenoid: ['D1:open'],
  'muting-relay': ['D1:open'],
  'leaf-switch': ['S1:open'],
  photodiode: ['C1:high-esr'],
  'mode-switch': ['S1:open', 'S2:open'],
};
