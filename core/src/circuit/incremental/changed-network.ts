import {
  NEVER,
  type BranchStamp,
  type ConductanceStamp,
  type JunctionStamp,
  type CharacteristicStamp,
  type Network,
  type TransistorStamp,
} from '../network';
import { slotOf } from '../sparse';

/** What goes from a list of stamps and what comes at its end. */
export interface ListChange<T> {
  readonly gone: T[];
  readonly come: T[];
}

export const noChange = <T>(): ListChange<T> => ({ gone: [], come: [] });

function changed<T>(stamps: readonly T[], { gone, come }: ListChange<T>): readonly T[] {
  if (gone.length + come.length === 0) return stamps;
  return [
    ...(gone.length === 0 ? stamps : stamps.filter((stamp) => !gone.includes(stamp))),
    ...come,
  ];
}

/** All that an exchange does to the lists of a network. */
export interface NetworkChange {
  readonly conductances: ListChange<ConductanceStamp>;
  readonly junctions: ListChange<JunctionStamp>;
  readonly transistors: ListChange<TransistorStamp>;
  /** Characteristics that go keep their place, and conduct no more. */
  readonly characteristics: {
    readonly gone: readonly number[];
    readonly come: readonly CharacteristicStamp[];
  };
  readonly branches: readonly {
    readonly old: BranchStamp;
    readonly fresh: BranchStamp;
    readonly ohm: number;
  }[];
  readonly constant: readonly { readonly slot: number; readonly siemens: number }[];
  readonly chips: Network['chips'];
  readonly extra: number;
}

/**
 * A network with some of its elements exchanged. Its lists are made when they are first asked for:
 * a search beside the other network asks for none of them.
 */
export class ExchangedNetwork implements Network {
  readonly elements: Network['elements'];
  readonly nodeIndex: Network['nodeIndex'];
  readonly nodeNames: Network['nodeNames'];
  readonly nodeCount: number;
  readonly size: number;
  readonly pattern: Network['pattern'];
  readonly lu: Network['lu'];
  readonly drivers: Network['drivers'];
  readonly component: Network['component'];
  readonly chips: Network['chips'];
  readonly extra: number;
  private readonly made: {
    -readonly [
      K in
        | 'constant'
        | 'drive'
        | 'branches'
        | 'junctions'
        | 'transistors'
        | 'characteristics'
        | 'conductances'
    ]?: Network[K];
  } = {};

  constructor(
    private readonly base: Network,
    private readonly change: NetworkChange,
  ) {
    this.elements = base.elements;
    this.nodeIndex = base.nodeIndex;
    this.nodeNames = base.nodeNames;
    this.nodeCount = base.nodeCount;
    this.size = base.size;
    this.pattern = base.pattern;
    this.lu = base.lu;
    this.drivers = base.drivers;
    this.component = base.component;
    this.chips = change.chips;
    this.extra = change.extra;
  }

  get constant(): Float64Array {
    if (this.made.constant) return this.made.constant;
    const constant = this.base.constant.slice();
    for (const { slot, siemens } of this.change.constant)
      constant[slot] = constant[slot]! + siemens;
    for (const { old, ohm } of this.change.branches)
      constant[slotOf(this.pattern, old.row, old.row)]! -= ohm;
    return (this.made.constant = constant);
  }

  get drive(): Float64Array {
    const { base, change, made } = this;
    if (change.branches.length === 0) return base.drive;
    if (made.drive) return made.drive;
    made.drive = base.drive.slice();
    for (const { old, fresh } of change.branches) made.drive[old.row]! += fresh.volt - old.volt;
    return made.drive;
  }

  get branches(): Network['branches'] {
    const { base, change } = this;
    if (change.branches.length === 0) return base.branches;
    return (this.made.branches ??= base.branches.map(
      (stamp) => change.branches.find(({ old }) => old === stamp)?.fresh ?? stamp,
    ));
  }

  get junctions(): Network['junctions'] {
    return (this.made.junctions ??= changed(this.base.junctions, this.change.junctions));
  }

  get transistors(): Network['transistors'] {
    return (this.made.transistors ??= changed(this.base.transistors, this.change.transistors));
  }

  get characteristics(): Network['characteristics'] {
    const { gone, come } = this.change.characteristics;
    if (gone.length + come.length === 0) return this.base.characteristics;
    if (this.made.characteristics) return this.made.characteristics;
    const characteristics = this.base.characteristics.slice();
    for (const place of gone)
      characteristics[place] = { ...characteristics[place]!, driver: NEVER };
    characteristics.push(...come);
    return (this.made.characteristics = characteristics);
  }

  get conductances(): Network['conductances'] {
    return (this.made.conductances ??= changed(this.base.conductances, this.change.conductances));
  }
}

/** The share of a change that the matrix has places for. */
export function inMatrixOnly(
  change: NetworkChange,
  looseCharacteristics: readonly CharacteristicStamp[],
): NetworkChange {
  const { junctions, transistors, characteristics } = change;
  return {
    ...change,
    junctions: { gone: junctions.gone, come: [] },
    transistors: { gone: transistors.gone, come: [] },
    characteristics: {
      gone: characteristics.gone,
      come: characteristics.come.filter((stamp) => !looseCharacteristics.includes(stamp)),
    },
  };
}
