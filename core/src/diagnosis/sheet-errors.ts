import { GROUND, isInsidePackage, nameKey, type BoardIndex, type Part } from '../board';
import { severityGrid, type Element, type FaultMode } from '../device';
import type { Fault, SingleHypothesis } from '../fault';
import { formatCompact } from '../quantity';

/**
 * How likely a sheet is wrong in each way somewhere, before any reading. From memory of bench
 * practice with drawn and typed sheets.
 */
const CHANCE = {
  decade: 0.008,
  misread: 0.004,
  undrawn: 0.03,
  twoEnds: 0.4,
  dangling: 0.4,
  oneNet: 0.002,
  supply: 0.002,
} as const;
/** A value typed or read with a zero too many or too few, as a factor on what the sheet says. */
const DECADES = [0.01, 0.1, 10, 100] as const;
/** A value wrong in its digits, as a factor. */
const DIGITS = { low: 0.1, high: 10 } as const;
/** What may hang on a net undrawn, ohm: to ground, or to the highest supply. */
const UNDRAWN_OHM = { low: 30, high: 3e6 } as const;
/** What an undrawn part between two nets may have, ohm: a coil or a link as well as a resistor. */
const UNDRAWN_PART_OHM = { low: 0.5, high: 1e6 } as const;
const MOST_SUPPLIES = 3;
/** Loose ends of larger sheets are too many to be joined to everything. */
const MOST_PARTS_FOR_ENDS = 60;
const JOINED_OHM = 0.01;
const SUPPLY = { low: 0.5, high: 1.6 } as const;

type Sheet = Omit<NonNullable<SingleHypothesis['sheet']>, 'chance'>;
interface Drawn {
  readonly fault: Fault;
  readonly severities: readonly number[];
  readonly discrete: boolean;
  readonly sheet: Sheet;
  readonly kind: keyof typeof CHANCE;
}

/**
 * Where the sheet of a board may be wrong: each a hypothesis of its own that condemns no part.
 * healthyPrior: chance that nothing else is wrong.
 */
export function sheetErrors(index: BoardIndex, healthyPrior: number): readonly SingleHypothesis[] {
  const all = [
    ...misreadValues(index),
    ...undrawnLoads(index),
    ...danglingNets(index),
    ...joinedNets(index),
    ...wrongSupplies(index),
  ];
  const counts = new Map<string, number>();
  for (const { kind } of all) counts.set(kind, (counts.get(kind) ?? 0) + 1);
  return all.map(({ fault, severities, discrete, sheet, kind }): SingleHypothesis => {
    const chance = CHANCE[kind] / counts.get(kind)!;
    return {
      type: 'single',
      name: fault.name,
      faults: [fault.name],
      refs: [],
      fault,
      severities,
      discrete,
      prior: healthyPrior * chance,
      sheet: { ...sheet, chance },
    };
  });
}

/** A mode that is none of the part's own: not it is other than it was, but the sheet. */
function modeOf(name: string, low: number, high: number, change: FaultMode['change']): FaultMode {
  return { name, severity: { low, high }, changesDc: true, change };
}

const scaled = (healthy: readonly Element[], factor: number): readonly Element[] =>
  healthy.map((e) => (e.type === 'conductance' ? { ...e, siemens: e.siemens / factor } : e));

function misreadValues({ board }: BoardIndex): readonly Drawn[] {
  return board.parts.flatMap((part): Drawn[] => {
    if (part.kind !== 'resistor' || part.unknown || isInsidePackage(part.ref)) return [];
    const [low, value, high] = [0.1, 1, 10].map((factor) =>
      formatCompact(part.resistanceOhm * factor, 'ohm'),
    );
    const check = `read its bands, or its ohms with a leg lifted`;
    const fault = (name: string, from: number, to: number): Fault => ({
      type: 'mode',
      name: `${part.ref}:${name}`,
      part,
      mode: modeOf(name, from, to, scaled),
    });
    return [
      {
        kind: 'decade',
        fault: fault('other-decade', DECADES[0], DECADES[3]),
        severities: DECADES,
        discrete: true,
        sheet: { title: `${part.ref} may be ${high} or ${low}, not ${value}`, check },
      },
      {
        kind: 'misread',
        fault: fault('other-value', DIGITS.low, DIGITS.high),
        severities: severityGrid(DIGITS),
        discrete: false,
        sheet: { title: `${part.ref} may not be ${value}`, check },
      },
    ];
  });
}

/** Nets that a supply holds by itself: what else hangs there moves nothing. */
function heldNets({ board }: BoardIndex): ReadonlySet<string> {
  return new Set([
    GROUND,
    ...board.parts
      .filter(({ kind }) => kind === 'voltageSource')
      .flatMap(({ pins }) => pins.map(nameKey)),
  ]);
}

/** Nets that supplies come in on, by their volts; one of each. */
function supplyNets({ board }: BoardIndex): readonly string[] {
  const supplies = board.parts.flatMap((part) =>
    part.kind === 'voltageSource' && part.volt !== 0 && nameKey(part.pins[1]!) === GROUND
      ? [part]
      : [],
  );
  return [...new Map(supplies.map(({ volt, pins }) => [volt, pins[0]!])).values()].slice(
    0,
    MOST_SUPPLIES,
  );
}

/**
 * Nets on which a single pin of a part hangs: nobody draws a part to nowhere, so something that
 * belongs there is missing.
 */
export function looseEnds(index: BoardIndex): readonly string[] {
  const held = heldNets(index);
  const edges = new Set((index.board.edges ?? []).map(({ net }) => nameKey(net)));
  const isLoose = (net: string): boolean => {
    const places = index.pinsOfNet.get(net) ?? [];
    return (
      places.length === 1 &&
      places[0]!.part.kind !== 'chip' &&
      places[0]!.part.kind !== 'connectorPin' &&
      places[0]!.part.kind !== 'unspecified'
    );
  };
  return index.nets.filter(
    (net) =>
      !held.has(nameKey(net)) && !edges.has(nameKey(net)) && !/^nc_/i.test(net) && isLoose(net),
  );
}

/** Something undrawn from a loose end to any other net, first of all to another loose end. */
function danglingNets(index: BoardIndex): readonly Drawn[] {
  if (index.board.parts.length > MOST_PARTS_FOR_ENDS) return [];
  const loose = looseEnds(index);
  const seen = new Set<string>();
  return loose.flatMap((net) =>
    index.nets.flatMap((other): Drawn[] => {
      const key = [net, other].map(nameKey).sort().join('~');
      if (other === net || nameKey(other) === GROUND || /^nc_/i.test(other) || seen.has(key))
        return [];
      seen.add(key);
      const sheet = {
        title: `a part from ${net} to ${other} is not drawn`,
        check: `${net} ends at one pin on this sheet: follow its track`,
      };
      const kind = loose.includes(other) ? 'twoEnds' : 'dangling';
      return [
        {
          kind,
          fault: {
            type: 'bridge',
            name: `${net}~${other}:undrawn-part`,
            nets: [net, other],
            severity: UNDRAWN_PART_OHM,
          },
          severities: severityGrid(UNDRAWN_PART_OHM),
          discrete: false,
          sheet,
        },
      ];
    }),
  );
}

function undrawnLoads(index: BoardIndex): readonly Drawn[] {
  const held = heldNets(index);
  const supplies = supplyNets(index);
  const grid = severityGrid(UNDRAWN_OHM);
  return index.nets.flatMap((net): Drawn[] => {
    if (held.has(nameKey(net))) return [];
    const sheet = {
      title: `something that is not drawn loads net ${net}`,
      check: `follow the track of ${net} for a part that the sheet does not show`,
    };
    const load = (name: string, to: string): Drawn => ({
      kind: 'undrawn',
      fault: { type: 'bridge', name: `${net}:${name}`, nets: [net, to], severity: UNDRAWN_OHM },
      severities: grid,
      discrete: false,
      sheet,
    });
    const draw: Drawn = {
      kind: 'undrawn',
      fault: {
        type: 'bridge',
        name: `${net}:undrawn-draw`,
        nets: [net, GROUND],
        severity: UNDRAWN_OHM,
        poweredOnly: true,
      },
      severities: grid,
      discrete: false,
      sheet: {
        title: `something that is not drawn takes current from net ${net} once the power is on`,
        check: sheet.check,
      },
    };
    return [
      draw,
      load('undrawn-load', GROUND),
      ...supplies.map((supply, i) =>
        load(i === 0 ? 'undrawn-feed' : `undrawn-feed-${supply}`, supply),
      ),
    ];
  });
}

/**
 * A net with a single pin is often another one under a second name: those whose names differ by one
 * sign, or that start alike.
 */
function joinedNets(index: BoardIndex): readonly Drawn[] {
  const pinCount = (net: string): number => index.pinsOfNet.get(net)?.length ?? 0;
  const named = index.nets.filter((net) => nameKey(net) !== GROUND && !/^nc_/i.test(net));
  return named.flatMap((net) => {
    if (pinCount(net) !== 1) return [];
    return named.flatMap((other): Drawn[] => {
      if (other === net || !isNearName(net, other) || (pinCount(other) === 1 && other < net))
        return [];
      const sheet = {
        title: `${net} and ${other} may be one net`,
        check: `beep from ${net} to ${other}`,
      };
      return [
        {
          kind: 'oneNet',
          fault: {
            type: 'bridge',
            name: `${net}~${other}:one-net`,
            nets: [net, other],
            severity: { low: JOINED_OHM, high: JOINED_OHM },
          },
          severities: [JOINED_OHM],
          discrete: true,
          sheet,
        },
      ];
    });
  });
}

/** Names that differ by one sign, or of which one goes on where the other ends. */
function isNearName(a: string, b: string): boolean {
  const [p, q] = [nameKey(a), nameKey(b)].sort((x, y) => x.length - y.length) as [string, string];
  if (p.length >= 2 && q.startsWith(p)) return true;
  return (
    p.length === q.length && p.length >= 2 && [...p].filter((sign, i) => sign !== q[i]).length === 1
  );
}

function wrongSupplies({ board }: BoardIndex): readonly Drawn[] {
  return board.parts.flatMap((part: Part): Drawn[] => {
    if (part.kind !== 'voltageSource' || part.volt === 0) return [];
    const mode = modeOf('other-volts', SUPPLY.low, SUPPLY.high, (healthy, factor) =>
      healthy.map((e) => (e.type === 'branch' ? { ...e, volt: e.volt * factor } : e)),
    );
    const sheet = {
      title: `what feeds ${part.pins[0]} may not be ${formatCompact(part.volt, 'V')}`,
      check: `read the volts of ${part.pins[0]} where they come in`,
    };
    return [
      {
        kind: 'supply',
        fault: { type: 'mode', name: `${part.ref}:other-volts`, part, mode },
        severities: [0.5, 0.65, 0.8, 0.9, 1.1, 1.25, 1.6],
        discrete: false,
        sheet,
      },
    ];
  });
}
