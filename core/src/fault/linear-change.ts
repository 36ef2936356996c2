import { conductance, elementsOf, typicalSeverity, type Element, type NodeName } from '../device';
import { severityOf, type Fault } from './fault';

/**
 * A fault that is nothing but another admittance between two nodes, as seen at DC and at one
 * frequency.
 * siemens: change of the DC conductance. before, after: the elements between the two nodes, for
 * small-signal work.
 */
export interface LinearChange {
  readonly a: NodeName;
  readonly b: NodeName;
  readonly siemens: number;
  readonly before: readonly Element[];
  readonly after: readonly Element[];
}

/**
 * Says whether a fault only changes what lies between two nodes, and by how much. Undefined where
 * it does more (a transistor lead, a bulk node).
 * A dry joint of a two-pin part counts as its whole branch opening: right for every probe point but
 * the joint's own pin.
 */
export function linearChange(fault: Fault, severity?: number): LinearChange | undefined {
  const amount = severity ?? typicalSeverity(severityOf(fault));
  if (fault.type === 'bridge') {
    const [a, b] = fault.nets;
    return { a, b, siemens: 1 / amount, before: [], after: [conductance(a, b, amount)] };
  }
  // What hangs behind a cut is not one element.
  if (fault.type === 'cut') return undefined;
  const part = fault.type === 'dry' ? fault.pin.part : fault.part;
  if (part.pins.length !== 2) return undefined;
  const before = elementsOf(part);
  const after =
    fault.type === 'mode' ? fault.mode.change(before, amount) : openBranch(before, amount);
  const [a, b] = part.pins as [string, string];
  if (!after) return undefined;
  // A junction in the part may stay as it is (a resistance beside it), but must not change itself.
  const kept = before.filter((element) => !after.includes(element));
  const added = after.filter((element) => !before.includes(element));
  if (![...kept, ...added].every((element) => isBetween(element, a, b))) return undefined;
  const dc = (elements: readonly Element[]): number =>
    elements.reduce((sum, element) => sum + dcSiemens(element), 0);
  const siemens = dc(added) - dc(kept);
  return Number.isFinite(siemens) ? { a, b, siemens, before: kept, after: added } : undefined;
}

/**
 * One text for all changes that no direct current can tell apart: a shorted capacitor and another
 * one beside it.
 */
export function sameDcKey({ a, b, before, after }: LinearChange): string {
  const dc = (elements: readonly Element[]): string =>
    elements
      .flatMap((element) =>
        element.type === 'conductance'
          ? [`${element.siemens}/${element.spread}`]
          : element.type === 'coil'
            ? [`${element.ohm} ohm/${element.spread}`]
            : [],
      )
      .sort()
      .join('+');
  return `${[a, b].sort().join('~')}:${dc(before)}>${dc(after)}`;
}

function openBranch(elements: readonly Element[], ohm: number): readonly Element[] | undefined {
  const [only, ...rest] = elements;
  if (!only || rest.length > 0) return undefined;
  if (only.type === 'conductance')
    return [{ ...only, siemens: 1 / (1 / only.siemens + ohm), spread: 0 }];
  if (only.type === 'coil') return [{ ...only, ohm: only.ohm + ohm, spread: 0 }];
  if (only.type === 'capacitance') return [{ ...only, ohm: only.ohm + ohm, ohmSpread: 0 }];
  return undefined;
}

function isBetween(element: Element, a: NodeName, b: NodeName): boolean {
  if (element.type !== 'conductance' && element.type !== 'coil' && element.type !== 'capacitance')
    return false;
  if (element.type === 'coil' && element.ohm < 1e-6) return false;
  return (element.a === a && element.b === b) || (element.a === b && element.b === a);
}

function dcSiemens(element: Element): number {
  if (element.type === 'conductance') return element.siemens;
  return element.type === 'coil' ? 1 / element.ohm : 0;
}
