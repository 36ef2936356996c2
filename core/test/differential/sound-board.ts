import { indexBoard, type BoardIndex } from '../../src/board';
import {
  buildNetwork,
  freshChips,
  solveMixedSignal,
  SolvedStates,
  BaseLinearisation,
  type NetlistChange,
  type Network,
  type MixedSignalSolution,
} from '../../src/circuit';
import { stateParts, type FaultState } from '../../src/fault';
import { changeParts, touchedParts } from '../../src/instrument/incremental-state';
import { demoBoard } from '@hanzai/data/demo';

/** A demo board switched on, and a way to the same board with faults beside it. */
export interface SoundBoard {
  readonly index: BoardIndex;
  readonly network: Network;
  readonly settled: MixedSignalSolution;
  readonly points: readonly BaseLinearisation[];
  /** Undefined where a board with these faults cannot be found beside this one. */
  readonly withFaults: (
    faults: readonly FaultState[],
  ) => { readonly netlistChange: NetlistChange; readonly found: MixedSignalSolution } | undefined;
}

export function soundBoard(name: Parameters<typeof demoBoard>[0]): SoundBoard {
  const index = indexBoard(demoBoard(name));
  const sound = { setup: 'on', faults: [], absent: [] } as const;
  const parts = stateParts(index, sound);
  const network = buildNetwork(
    parts.flatMap(({ elements }) => elements),
    index.nets,
  );
  const settled = solveMixedSignal(network);
  if (!settled.ok) throw new Error(settled.why);
  const points = settled.phases.map(
    (x, phase) => new BaseLinearisation(network, settled.drives[phase]!, x),
  );
  const near = {
    points,
    fresh: network.chips.length > 0 ? freshChips(network, settled) : undefined,
    solved: new SolvedStates(),
  };
  const withFaults: SoundBoard['withFaults'] = (faults) => {
    const netlistChange = changeParts(
      network,
      touchedParts(index, { ...sound, faults }, parts),
      faults,
    );
    const found =
      netlistChange &&
      solveMixedSignal(netlistChange.network, {
        from: settled,
        fromNetwork: network,
        near: { ...near, netlistChange },
      });
    return netlistChange && found?.ok ? { netlistChange, found } : undefined;
  };
  return { index, network, settled, points, withFaults };
}
