import {
  fuseGate,
  reconcile,
  type FuseObjection,
  type LedgerLine,
  type LooseReading,
} from '@hanzai/core/bench';
import {
  firstPowerObjection,
  firstPowerWithoutSheet,
  proofSteps,
  proofWithoutSheet,
  type CaseWithoutSheet,
  type ProofDone,
  type ProofStarts,
  type ProofStep,
} from '@hanzai/core/prove';
import type { Start } from '@hanzai/core/block';
import { nameKey, type BoardIndex } from '@hanzai/core/board';
import { resolveMeasurement } from '@hanzai/core/instrument';
import { formatQuantity } from '@hanzai/core/quantity';
import { runOf } from './kind/proving';
import { writtenPoints } from './written-points';
import { predictorOf } from './good-board';
import type { Journal } from './journal';

/**
 * What of a case only a solved circuit tells. The rules ask it, and do not care who solved: the
 * server's worker does it here and now, the browser's does it beside the page and sends it.
 */
export interface Solved {
  /** The proof's steps; undefined while they are still being worked out. */
  readonly proof: () => readonly ProofStep[] | undefined;
  /** Why the ohms keep power off after a repair; undefined where they do not. */
  readonly power: () => string | undefined;
  /** What keeps a fuse out; undefined where nothing does, or where it is no fuse. */
  readonly fuse: (ref: string) => FuseObjection | undefined;
}

/** A repair is a part fitted, or one left out on purpose. */
export const isRepair = ({ action }: LedgerLine): boolean => action !== 'removed';

/** What a gate or a proof may rest on: a simulated board says nothing of the one on the bench. */
const realReadings = ({ readings }: Journal): Journal['readings'] =>
  readings.filter(({ isSimulated }) => !isSimulated);

/**
 * The proof of a case as it stands: what was read before the repair against what has been read
 * since.
 */
function caseProof(index: BoardIndex, journal: Journal): readonly ProofStep[] {
  const symptoms = journal.symptoms.map(({ id, body }) => ({ key: id, text: body.text }));
  const before = journal.ledger.some(isRepair)
    ? realReadings(journal).filter((r) => !r.current)
    : [];
  const after = realReadings(journal).filter((r) => r.current);
  return proofSteps(index, predictorOf(index), {
    before,
    after,
    symptoms,
    answers: journal.answers,
    leftOut: journal.absent,
    starts: startsOf(journal),
    done: doneOf(journal),
  });
}

function startsOf({ startsBefore, startsSince }: Journal): ProofStarts {
  const starts = (list: Journal['starts']): readonly Start[] =>
    list.map(({ body }) => ({ clean: body.failedAt === null, conditions: body.conditions }));
  return { before: starts(startsBefore), since: starts(startsSince) };
}

/** What was done to the unit, as its proof goes by it. */
export function doneOf(journal: Journal): ProofDone {
  const fitted = reconcile(journal.ledger).filter(
    ({ ref, fitted: on }) => on > 0 && !journal.absent.includes(ref) && !ref.includes('~'),
  );
  const touched = [...new Set(journal.turned.map(({ body }) => body.ref))];
  return {
    fitted: fitted.map(({ ref }) => ref),
    settings: touched.map((ref) => {
      const last = journal.turned.findLast(({ body }) => body.ref === ref)!.body;
      const unit = journal.asFound.find(({ body }) => body.ref === ref)?.body.unit ?? '';
      return {
        ref,
        left: last.reading === undefined ? '' : formatQuantity(last.reading, unit),
      };
    }),
    opened: journal.steps.length > 0,
    runs: journal.runsSince.map(({ body }) => runOf(body)),
  };
}

/** Readings at points that no sheet has, as the rules of a case without one take them. */
export function looseReadings({ loose }: Journal): readonly LooseReading[] {
  const real = loose.filter(({ isSimulated }) => !isSimulated);
  return real.map(({ entry: { id, body }, current }) => ({
    key: id,
    setup: body.setup,
    kind: body.quantity,
    at: body.at,
    to: body.to,
    value: body.value,
    current,
  }));
}

function withoutSheet(journal: Journal): CaseWithoutSheet {
  return {
    rails: journal.rails.map(({ body: { net, volt } }) => ({ net, volt })),
    readings: looseReadings(journal),
    symptoms: journal.symptoms.map(({ id, body }) => ({ key: id, text: body.text })),
    answers: journal.answers,
    starts: startsOf(journal),
    done: doneOf(journal),
  };
}

/** What keeps a fuse out, by the readings of the board as it is now. Solves the good board. */
function fuseHold(index: BoardIndex, journal: Journal, ref: string): FuseObjection | undefined {
  const fuse = index.partByKey.get(nameKey(ref));
  const current = realReadings(journal).filter((reading) => reading.current);
  return fuse && fuseGate(index, fuse, current, predictorOf(index));
}

function powerHold(index: BoardIndex, journal: Journal): string | undefined {
  const current = realReadings(journal).filter((reading) => reading.current);
  return firstPowerObjection(index, predictorOf(index), current, journal.absent);
}

/** Solves here and now, each thing when it is first asked for. */
export function solveHere(index: BoardIndex | undefined, journal: Journal): Solved {
  let proof: readonly ProofStep[] | undefined;
  return {
    proof: () =>
      (proof ??= index ? caseProof(index, journal) : proofWithoutSheet(withoutSheet(journal))),
    power: () =>
      index ? powerHold(index, journal) : firstPowerWithoutSheet(withoutSheet(journal)),
    fuse: (ref) => index && fuseHold(index, journal, ref),
  };
}

/** While the worker is at it nothing is allowed that only it can allow. */
export const PENDING: Solved = {
  proof: () => undefined,
  power: () => 'what the ohms have to be is still being worked out: a moment',
  fuse: () => ({
    measure: { at: '', to: '' },
    words: 'what has to be measured first is still being worked out: a moment',
    low: false,
  }),
};

/** A step of a proof as it travels: its measurement by names, not by the parts themselves. */
export type WrittenStep =
  | Exclude<ProofStep, { type: 'measure' }>
  | (Omit<Extract<ProofStep, { type: 'measure' }>, 'measurement'> & {
      readonly measurement: {
        readonly setup: string;
        readonly kind: string;
        readonly at: string;
        readonly to: string;
      };
    });

/** What a worker sends of a case. */
export interface WrittenAnswers {
  readonly proof: readonly WrittenStep[];
  readonly power: string | undefined;
  /** By the designators of parts that are off or condemned. */
  readonly fuses: Readonly<Record<string, FuseObjection>>;
}

/** Solves all of it, for sending. */
export function writeAnswers(index: BoardIndex, journal: Journal): WrittenAnswers {
  const solved = solveHere(index, journal);
  const refs = new Set([...journal.absent, ...journal.condemned.map(({ body }) => body.ref)]);
  const fuses = [...refs].flatMap((ref) => {
    const hold = solved.fuse(ref);
    return hold ? [[nameKey(ref), hold] as const] : [];
  });
  return {
    proof: solved.proof()!.map(writeStep),
    power: journal.ledger.some(isRepair) ? solved.power() : undefined,
    fuses: Object.fromEntries(fuses),
  };
}

function writeStep(step: ProofStep): WrittenStep {
  if (step.type !== 'measure') return step;
  const { setup, kind } = step.measurement;
  return { ...step, measurement: { setup, kind, ...writtenPoints(step.measurement) } };
}

/** Reads what a worker sent, on the board that it was asked about. */
export function readAnswers(index: BoardIndex, answers: WrittenAnswers): Solved {
  const proof = answers.proof.flatMap((step): ProofStep[] => {
    if (step.type !== 'measure') return [step];
    const { setup, kind, at, to } = step.measurement;
    const resolved = resolveMeasurement(index, setup, kind, at, to);
    return resolved.ok ? [{ ...step, measurement: resolved.measurement }] : [];
  });
  return {
    proof: () => proof,
    power: () => answers.power,
    fuse: (ref) => answers.fuses[nameKey(ref)],
  };
}
