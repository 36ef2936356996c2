import { describe, expect, it } from 'vitest';
import { drivenAfter, drivenNodes, drivenThere, seesTheSame } from '../../src/circuit';
import { Diagnoser } from '../../src/diagnosis';
import { RATES } from '@hanzai/data';
import { soundBoard } from './sound-board';

// What holds a node on a faulty board, told from what holds it on the sound one, against asking
// every part of the faulty board; and what did not move against where it is: both for every kind of
// fault that the boards have.
describe('what is only looked at where something moved', () => {
  it.each([
    ['tl9', 3],
    ['cr40Whole', 11],
    ['yc2Whole', 11],
    ['pd3Rw', 7],
  ] as const)('%s', (name, every) => {
    const { index, network, settled, points, withFaults } = soundBoard(name);
    expect(drivenThere(points[0]!)).toEqual(
      drivenNodes(network, settled.drives[0]!, settled.phases[0]),
    );
    const wrong: string[] = [];
    const kinds = new Set<string>();
    let near = 0;
    new Diagnoser(index, RATES).space.hypotheses.forEach(
      ({ name: title, fault, severities }, h) => {
        if (h % every !== 0) return;
        const faulty = withFaults([{ fault, severity: severities[h % severities.length]! }]);
        if (!faulty?.found.moved) return;
        const { netlistChange, found } = faulty;
        near += 1;
        kinds.add(fault.type === 'mode' ? `${fault.part.kind}:${fault.mode.name}` : fault.type);
        const [drives, x] = [found.drives[0]!, found.phases[0]!];
        const quick = drivenAfter(
          points[0]!,
          netlistChange.network,
          netlistChange.difference,
          drives,
          x,
          found.moved,
        );
        const whole = drivenNodes(netlistChange.network, drives, x);
        for (let node = 0; node < network.nodeCount; node += 1)
          if (quick[node] !== whole[node])
            wrong.push(
              `${title}: ${network.nodeNames[node]} is ${quick[node]}, asked ${whole[node]}`,
            );
        // With every chip asked, not only those where something went far enough.
        const everywhere = found.phases.map((volts) => ({ x: volts, moved: undefined }));
        if (found.oscillating.size === 0 && !seesTheSame(netlistChange.network, found, everywhere))
          wrong.push(`${title}: a chip sees something else`);
        const moved = new Set(found.moved);
        for (let node = 0; node < network.nodeCount; node += 1)
          for (const [phase, volts] of found.phases.entries())
            if (!moved.has(node) && Math.abs(volts[node]! - settled.phases[phase]![node]!) > 2e-5)
              wrong.push(`${title}: ${network.nodeNames[node]} moved unsaid`);
      },
    );
    expect(wrong).toEqual([]);
    expect(near).toBeGreaterThan(20);
    expect(kinds.size).toBeGreaterThan(5);
  });
});
