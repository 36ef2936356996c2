import { indexBoard, type BoardIndex } from '../../src/board';
import {
  buildNetwork,
  freshChips,
  settle,
  SolvedStates,
  Vicinity,
  type Exchange,
  type Network,
  type Settled,
} from '../../src/circuit';
import { stateParts, type FaultState } from '../../src/fault';
import { exchangeParts, touchedParts } from '../../src/instrument/beside';
import { demoBoard } from '@hanzai/data/demo';

/** A demo board switched on, and a way to the same board with faults beside it. */
export interface SoundBoard {
  readonly index: BoardIndex;
  readonly network: Network;
  readonly settled: Settled;
  readonly points: readonly Vicinity[];
  /** Undefined where a board with these faults cannot be found beside this one. */
  readonly withFaults: (
    faults: readonly FaultState[],
  ) => { readonly exchange: Exchange; readonly found: Settled } | undefined;
}

export function soundBoard(name: Parameters<typeof demoBoard>[0]): SoundBoard {
  const index = indexBoard(demoBoard(name));
  const sound = { setup: 'on', faults: [], absent: [] } as const;
  const parts = stateParts(index, sound);
  const network = buildNetwork(
    parts.flatMap(({ elements }) => elements),
    index.nets,
  );
  const settled = settle(network);
  if (!settled.ok) throw new Error(settled.why);
  const points = settled.phases.map((x, phase) => new Vicinity(network, settled.drives[phase]!, x));
  const near = {
    points,
    fresh: network.chips.length > 0 ? freshChips(network, settled) : undefined,
    solved: new SolvedStates(),
  };
  const withFaults: SoundBoard['withFaults'] = (faults) => {
    const exchange = exchangeParts(
      network,
      touchedParts(index, { ...sound, faults }, parts),
      faults,
    );
    const found =
      exchange &&
      settle(exchange.network, {
        from: settled,
        fromNetwork: network,
        near: { ...near, exchange },
      });
    return exchange && found?.ok ? { exchange, found } : undefined;
  };
  return { index, network, settled, points, withFaults };
}
