import {
  factorJacobian,
  operatingPoint,
  solveIncrementally,
  pointDriven,
  type Difference,
  type NearPoint,
  type Network,
  type NoOperatingPoint,
  type BaseLinearisation,
} from '../circuit';

/**
 * A board that is off, through which a meter drives a current into a and out of b. -1 is ground.
 */
export interface OffBoard {
  readonly network: Network;
  /**
   * Volts of every unknown for one ampere, the current vanishing, and the adjoint of the voltage
   * between a and b. Undefined where this way does not lead there.
   */
  linear(a: number, b: number): LinearAnswer | undefined;
  /**
   * Volts of every unknown while so many amperes flow, and the adjoint there. Undefined as for
   * `linear`.
   */
  driven(a: number, b: number, ampere: number): DrivenPoint | NoOperatingPoint | undefined;
}

export interface LinearAnswer {
  readonly response: Float64Array;
  readonly adjoint: () => Float64Array;
}

export interface DrivenPoint {
  readonly x: Float64Array;
  readonly adjoint: () => Float64Array;
}

/** One ampere into a and out of b, as a right-hand side. */
export function unitCurrent(network: Network, a: number, b: number): Float64Array {
  const probe = new Float64Array(network.size);
  if (a >= 0) probe[a] = 1;
  if (b >= 0) probe[b]! -= 1;
  return probe;
}

/**
 * Every answer from a search over the whole circuit. An adjoint has to be asked for before the next
 * question.
 */
export class WholeOffBoard implements OffBoard {
  constructor(readonly network: Network) {}

  linear(a: number, b: number): LinearAnswer {
    const { network } = this;
    if (network.lu.owner !== this) {
      factorJacobian(network, new Float64Array(network.size));
      network.lu.owner = this;
    }
    const response = unitCurrent(network, a, b);
    network.lu.solve(response, response);
    const adjoint = this.adjoint(a, b);
    return { response, adjoint: () => adjoint };
  }

  driven(a: number, b: number, ampere: number): DrivenPoint | NoOperatingPoint {
    const { network } = this;
    const injection = unitCurrent(network, a, b);
    for (let i = 0; i < injection.length; i += 1) injection[i]! *= ampere;
    const result = operatingPoint(network, { injection });
    network.lu.owner = undefined;
    return result.ok ? { x: result.x, adjoint: () => this.adjoint(a, b) } : result;
  }

  private adjoint(a: number, b: number): Float64Array {
    const vector = unitCurrent(this.network, a, b);
    this.network.lu.solveTransposed(vector, vector);
    return vector;
  }
}

/**
 * Answers beside the sound board: only what a fault and the meter's current bring off their tangent
 * is worked out anew.
 */
export class NearOffBoard implements OffBoard {
  private rest: NearPoint | null | undefined;

  /** base: of the sound board, off. network, difference: the board with faults. */
  constructor(
    private readonly base: BaseLinearisation,
    readonly network: Network,
    private readonly difference: Difference,
  ) {}

  linear(a: number, b: number): LinearAnswer | undefined {
    if (this.rest === undefined)
      this.rest = solveIncrementally(this.base, this.difference, this.base.drives) ?? null;
    const { rest } = this;
    return rest ? { response: rest.response(a, b), adjoint: () => rest.adjoint(a, b) } : undefined;
  }

  driven(a: number, b: number, ampere: number): DrivenPoint | undefined {
    const point = pointDriven(this.base, this.difference, a, b, ampere);
    return point && { x: point.x, adjoint: () => point.adjoint(a, b) };
  }
}

/** The first board's answers, and the second's where it has none. */
export class FirstOf implements OffBoard {
  readonly network: Network;

  constructor(
    private readonly quick: OffBoard,
    private readonly sure: OffBoard,
  ) {
    this.network = sure.network;
  }

  linear(a: number, b: number): ReturnType<OffBoard['linear']> {
    return this.quick.linear(a, b) ?? this.sure.linear(a, b);
  }

  driven(a: number, b: number, ampere: number): ReturnType<OffBoard['driven']> {
    return this.quick.driven(a, b, ampere) ?? this.sure.driven(a, b, ampere);
  }
}
