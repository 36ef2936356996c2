// What a bench is like: specimens within tolerance, faults of any severity, sheets that are wrong
// somewhere, meters that are a little off. Figures are from memory of bench practice.

/** Park & Miller, CACM 31, 1988: the same cases at every run. */
export function generator(seed) {
  let state = seed;
  const random = () => (state = (state * 48271) % 2147483647) / 2147483647;
  const normal = () => Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random());
  const pick = (list) => list[Math.floor(random() * list.length)];
  const decades = (low, high) => low * (high / low) ** random();
  const some = (list, count) => {
    const rest = [...list];
    return Array.from(
      { length: Math.min(count, rest.length) },
      () => rest.splice(Math.floor(random() * rest.length), 1)[0],
    );
  };
  return { random, normal, pick, decades, some };
}

/**
 * Faults of a kind of part with the range of their severity (ohm, or a factor) and how often they
 * happen beside the others.
 */
// prettier-ignore
const MODES = {
  R: { open: [1e8, 1e8, 3], 'drift-high': [1.5, 10, 2], 'drift-low': [0.1, 0.65, 1] },
  F: { open: [1e8, 1e8, 6] },
  J: { open: [5, 1e8, 2] },
  S: { open: [30, 1e8, 3] },
  L: { open: [1e8, 1e8, 3] },
  W: { open: [1e8, 1e8, 2] },
  C: { short: [0.05, 60, 2], leaky: [60, 2e4, 2], 'high-esr': [6, 300, 6] },
  D: { open: [1e8, 1e8, 2], short: [0.05, 60, 3], leaky: [60, 5e3, 1] },
  Q: { 'open-b': [1e8, 1e8, 1], 'open-c': [1e8, 1e8, 1], 'open-e': [1e8, 1e8, 1], 'short-be': [0.05, 60, 1], 'short-bc': [0.05, 60, 1], 'short-ce': [0.05, 60, 3] },
  SO: { short: [0.1, 10, 1] },
  V: {},
};

/** A resistor above this passes too little to burn, ohm. */
const MOST_BURNING_OHM = 1000;

export function faultsOf(board) {
  return board.parts.flatMap((part) =>
    Object.entries(MODES[part.kind])
      .filter(([mode]) => !(mode === 'high-esr' && part.note.kind !== 'electrolytic'))
      .map(([mode, [low, high, weight]]) => ({
        ref: part.ref,
        part,
        mode,
        low,
        high,
        weight: weight * (part.kind === 'R' ? 0.5 : 1),
      })),
  );
}

export function drawFault({ random, decades }, faults) {
  let left = random() * faults.reduce((sum, { weight }) => sum + weight, 0);
  const found = faults.find(({ weight }) => (left -= weight) <= 0) ?? faults.at(-1);
  return { ...found, severity: decades(found.low, found.high) };
}

/** Pairs of an effect and its cause: what opens and a short on a net that its current comes to. */
export function causalPairs(board, faults, number) {
  const victims = faults.filter(
    ({ mode, part }) =>
      mode === 'open' &&
      ('FL'.includes(part.kind) || (part.kind === 'R' && number(part.value) <= MOST_BURNING_OHM)),
  );
  const shorts = faults.filter(({ mode, part }) => mode.startsWith('short') && part.kind !== 'SO');
  const supplied = new Set(
    board.parts.filter(({ kind }) => kind === 'V').map(({ nets }) => nets[0]),
  );
  return victims.flatMap((victim) => {
    const behind = victim.part.nets.filter((net) => net !== '0' && !supplied.has(net));
    return shorts
      .filter(
        ({ part }) =>
          part !== victim.part &&
          part.nets.includes('0') &&
          part.nets.some((net) => behind.includes(net)),
      )
      .map((culprit) => [victim, culprit]);
  });
}

/** One real board: every part a little off what its sheet says. */
export function specimenOf({ normal }, nominal, board, scaledModel) {
  return new Map(
    board.parts.map((part) => {
      const own = nominal.get(part.ref);
      const limit = { R: 0.05, C: 0.2, L: 0.05, W: 0.05 }[part.kind] ?? 0;
      const model =
        own.model &&
        scaledModel(own.model, {
          IS: Math.exp(0.2 * normal()),
          BF: Math.exp(0.25 * normal()),
          BV: 1 + 0.025 * normal(),
        });
      return [
        part.ref,
        {
          ...own,
          model,
          factor: 1 + Math.max(-limit, Math.min(limit, (limit / 2) * normal())),
          esrFactor: Math.exp(0.25 * normal()),
        },
      ];
    }),
  );
}

/**
 * What is wrong with the sheet of a case: ESR not stated, parts that are not drawn, one value typed
 * wrongly.
 */
export function drawSheet({ random, pick, some }, board, guilty, number) {
  const others = board.parts.filter(
    ({ ref, kind }) => !guilty.includes(ref) && 'RCD'.includes(kind),
  );
  const place = random();
  const missing =
    place < 0.25 ? some(others, 1 + Math.floor(2 * random())).map(({ ref }) => ref) : [];
  const resistors = others.filter(({ kind }) => kind === 'R');
  const typed = place >= 0.25 && place < 0.42 ? pick(resistors) : undefined;
  const wrong = typed
    ? { [typed.ref]: Number((number(typed.value) * pick([10, 0.1, 100 / 47, 4.7])).toPrecision(3)) }
    : {};
  return { esrStated: random() < 0.55, missing, wrong };
}

export function drawMeter({ random, normal }) {
  return {
    leadOhm: random() < 0.4 ? 0.1 + 0.4 * random() : 0,
    offsetVolt: random() < 0.4 ? 0.004 * normal() : 0,
  };
}

const VOLT_RANGES = [0.4, 4, 40, 400];
const COUNTS = 4000;

/** What the display shows for an exact value. */
export function display({ random }, meter, kind, value) {
  const error = 2 * random() - 1;
  if (value === 'OL') return 'OL';
  if (kind === 'esr')
    return Math.max(0, Math.round((value * (1 + 0.05 * error) + 0.2 * meter.leadOhm) * 100) / 100);
  const [seen, share] =
    kind === 'resistance' ? [value + meter.leadOhm, 0.008] : [value + meter.offsetVolt, 0.005];
  const ranges = kind === 'resistance' ? [400, 4e3, 40e3, 400e3, 4e6, 40e6] : VOLT_RANGES;
  const range = ranges.find((one) => Math.abs(seen) <= one) ?? ranges.at(-1);
  const count = range / COUNTS;
  return Number((Math.round((seen * (1 + 0.7 * share * error)) / count) * count).toPrecision(6));
}
