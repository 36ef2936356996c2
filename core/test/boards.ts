import { readFileSync } from 'node:fs';
import { indexBoard, readDeck, type BoardIndex, type Setup } from '../src/board';
import { parseFault, type RateTable } from '../src/fault';
import { BenchState, resolveMeasurement, type Measurement, type Response } from '../src/instrument';
import { LIBRARY } from '@hanzai/data';
import rates from '../../data/library/rates.json' with { type: 'json' };

export const RATES: RateTable = rates as unknown as RateTable;

/** A board from deck lines with the library's devices, title and .end added. */
export function board(lines: string): BoardIndex {
  const result = readDeck(`test deck\n${lines}\n.end\n`, LIBRARY);
  if (!result.ok) throw new Error(JSON.stringify(result.issues));
  return indexBoard(result.value);
}

export function boardFile(path: string): BoardIndex {
  const result = readDeck(readFileSync(new URL(path, import.meta.url), 'utf8'));
  if (!result.ok) throw new Error(JSON.stringify(result.issues));
  return indexBoard(result.value);
}

export function measurement(index: BoardIndex, kind: string, at: string, to = ''): Measurement {
  const result = resolveMeasurement(index, '', kind, at, to);
  if (!result.ok) throw new Error(`${result.what}; expected ${result.expected}`);
  return result.measurement;
}

/** The bench with these faults. */
export function bench(index: BoardIndex, setup: Setup, ...faults: string[]): BenchState {
  const states = faults.map((name) => {
    const result = parseFault(index, name);
    if (!result.ok) throw new Error(result.what);
    return { fault: result.fault };
  });
  return new BenchState(index, { setup, faults: states, absent: [] });
}

export function volts(index: BoardIndex, ...faults: string[]): Record<string, number | null> {
  const nets = bench(index, 'on', ...faults).netVolts();
  if ('ok' in nets) throw new Error(String(nets.why));
  return nets as Record<string, number | null>;
}

export function respond(
  index: BoardIndex,
  kind: string,
  at: string,
  to = '',
  ...faults: string[]
): Response {
  const m = measurement(index, kind, at, to);
  const response = bench(index, m.setup, ...faults).respond(m);
  if ('ok' in response) throw new Error(response.why);
  return response;
}
