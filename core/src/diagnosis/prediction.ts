import type { BoardIndex, Setup } from '../board';
import { modesOf } from '../device';
import { changesDc, linearChange, type Hypothesis } from '../fault';
import { BenchState, measurementKey, type Measurement, type Response } from '../instrument';

/** A response for a board that has no solution: nothing can be predicted, so nothing is claimed. */
const UNKNOWN: Response = { value: 0, spread: 1e6, fullScale: 400 };

/** Solved faulty boards kept at a time: bounds the memory on large boards. */
const MAX_STATES = 1500;

/** Predicts readings under hypotheses, and remembers what it solved. Lives as long as a board is being worked on. */
export class Predictor {
  private readonly bases = new Map<string, BenchState>();
  private readonly states = new Map<string, BenchState>();
  private readonly responses = new Map<string, Response>();

  constructor(readonly index: BoardIndex) {}

  /** What the meter shows on the healthy board. */
  healthy(m: Measurement, absent: readonly string[] = []): Response {
    return this.remember(`|${measurementKey(m)}|${absent.join()}`, () => orUnknown(this.base(m.setup, absent).respond(m)));
  }

  /** What the meter shows under a hypothesis, for each of its severities; a single answer where severity cannot matter. Exact. */
  under(hypothesis: Hypothesis, m: Measurement, absent: readonly string[] = []): readonly Response[] {
    if (m.kind !== 'esr' && !changesDc(hypothesis.fault)) return [this.healthy(m, absent)];
    return hypothesis.severities.map((_, i) => this.at(hypothesis, i, m, absent));
  }

  /** What the meter shows under a hypothesis at its i-th severity. */
  at(hypothesis: Hypothesis, i: number, m: Measurement, absent: readonly string[] = []): Response {
    if (m.kind !== 'esr' && !changesDc(hypothesis.fault)) return this.healthy(m, absent);
    const same = this.probesJoint(hypothesis, m) ? hypothesis : asOpen(hypothesis);
    return this.remember(`${same.name}|${i}|${measurementKey(m)}|${absent.join()}`, () => this.one(same, same.severities[i]!, i, m, absent));
  }

  private one(hypothesis: Hypothesis, severity: number, i: number, m: Measurement, absent: readonly string[]): Response {
    if (!this.probesJoint(hypothesis, m)) {
      const change = absent.length === 0 ? linearChange(hypothesis.fault, severity) : undefined;
      const quick = change && this.base(m.setup, absent).respondAfter(m, change);
      if (quick) return quick;
    }
    return orUnknown(this.state(hypothesis, severity, i, m.setup, absent).respond(m));
  }

  /** Whether a probe sits on the very pin whose joint is in question: then it touches the part's side. */
  private probesJoint({ fault }: Hypothesis, m: Measurement): boolean {
    if (fault.type !== 'dry') return false;
    return [m.at, m.to].some(({ pin }) => pin?.part === fault.pin.part && pin.index === fault.pin.index);
  }

  private base(setup: Setup, absent: readonly string[]): BenchState {
    const key = `${setup}|${absent.join()}`;
    let state = this.bases.get(key);
    if (!state) this.bases.set(key, (state = new BenchState(this.index, { setup, faults: [], absent })));
    return state;
  }

  private state(hypothesis: Hypothesis, severity: number, i: number, setup: Setup, absent: readonly string[]): BenchState {
    const key = `${hypothesis.name}|${i}|${setup}|${absent.join()}`;
    let state = this.states.get(key);
    if (!state) {
      const base = this.base(setup, absent);
      base.solve();
      // A joint's own pin is looked at from inside, which a mere change of conductance does not show.
      const change = hypothesis.fault.type === 'dry' || absent.length > 0 ? undefined : linearChange(hypothesis.fault, severity);
      state = new BenchState(this.index, { setup, faults: [{ fault: hypothesis.fault, severity }], absent }, base, change);
      if (this.states.size >= MAX_STATES) this.states.delete(this.states.keys().next().value!);
      this.states.set(key, state);
    }
    return state;
  }

  private remember(key: string, compute: () => Response): Response {
    let known = this.responses.get(key);
    if (!known) this.responses.set(key, (known = compute()));
    return known;
  }
}

/** A dry joint of a two-pin part opens the part: seen from everywhere but that joint's own pin it is the same fault, and is solved once. */
function asOpen(hypothesis: Hypothesis): Hypothesis {
  const { fault } = hypothesis;
  if (fault.type !== 'dry' || fault.pin.part.pins.length !== 2) return hypothesis;
  const { part } = fault.pin;
  const mode = modesOf(part).find(({ name }) => name === 'open');
  return mode ? { ...hypothesis, name: `${part.ref}:open`, fault: { type: 'mode', name: `${part.ref}:open`, part, mode } } : hypothesis;
}

function orUnknown(result: ReturnType<BenchState['respond']>): Response {
  return 'ok' in result ? UNKNOWN : result;
}
