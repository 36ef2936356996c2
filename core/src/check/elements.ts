import { replaceablePart, type BoardIndex } from '../board';
import { parseFault } from '../fault';
import { BenchState } from '../instrument';
import { ARRAY } from './parts';
import type { CheckResult } from './check';

/** One element of an array, with what the sheet has beside it. */
export interface ArrayElement {
  readonly ref: string;
  /** Its two pins, for the probes. */
  readonly at: string;
  readonly to: string;
  readonly nominalOhm: number;
  /** What a meter would show there without the element; infinite where nothing stands beside it. */
  readonly besideOhm: number;
}

/** The elements of an array, with the circuit round each; empty for what is none. */
export function arrayElements(index: BoardIndex, ref: string): readonly ArrayElement[] {
  return (replaceablePart(index, ref)?.parts ?? []).flatMap((part): ArrayElement[] => {
    if (part.kind !== 'resistor' || !part.ref.includes('.')) return [];
    const [at, to] = [`${part.ref}.1`, `${part.ref}.2`];
    return [
      {
        ref: part.ref,
        at,
        to,
        nominalOhm: part.resistanceOhm,
        besideOhm: beside(index, part.ref, part.pins),
      },
    ];
  });
}

/** Ohms between two nets with an element open. */
function beside(index: BoardIndex, ref: string, [at, to]: readonly string[]): number {
  const open = parseFault(index, `${ref}:open`);
  if (!open.ok) return Infinity;
  const state = new BenchState(index, {
    setup: 'off',
    faults: [{ fault: open.fault }],
    absent: [],
  });
  const shown = state.respond({
    setup: 'off',
    kind: 'resistance',
    at: { net: at! },
    to: { net: to! },
  });
  return 'ok' in shown || typeof shown.value !== 'number' ? Infinity : shown.value;
}

/** An element with what was read across it, judged by what stands beside it and by its brothers. */
export function judgeElement(
  element: ArrayElement,
  read: number,
  others: readonly number[],
): { readonly given: Record<string, number | 'OL'>; readonly result: CheckResult | undefined } {
  const sorted = others.filter(Number.isFinite).sort((a, b) => a - b);
  const brothers = sorted[sorted.length >> 1];
  const given = {
    nominal: element.nominalOhm,
    read: Number.isFinite(read) ? read : ('OL' as const),
    beside: Number.isFinite(element.besideOhm) ? element.besideOhm : ('OL' as const),
    ...(brothers === undefined ? {} : { brothers }),
  };
  const numbers = Object.fromEntries(
    Object.entries(given).map(([key, value]) => [key, value === 'OL' ? Infinity : value]),
  );
  return { given, result: ARRAY.judge(numbers) };
}

const WORST = ['bad', 'doubtful', 'good'] as const;

/** The one of several that says most against its array: bad before doubtful before good. */
export function worstOf<T extends { readonly result: CheckResult | undefined }>(
  judged: readonly T[],
): T | undefined {
  return WORST.flatMap((verdict) => judged.filter(({ result }) => result?.verdict === verdict))[0];
}
