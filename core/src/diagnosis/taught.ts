import { indexBoard, nameKey, type BoardIndex, type Part } from '../board';
import { BenchState, pointText, resolveMeasurement, type Reading } from '../instrument';

type Resistor = Extract<Part, { kind: 'resistor' }>;

/**
 * How well an ohms reading across it tells a resistor that the sheet does not know: meter, leads
 * and what lies beside it.
 */
const TAUGHT_TOLERANCE = 0.1;
/**
 * Ohms between which a value is looked for, and halvings of that range on a log scale until it is
 * found to a thousandth.
 */
const SOLD_OHM = { least: 0.1, most: 5e7 } as const;
const HALVINGS = 36;

/** A board with the readings taken on it. */
export interface Taught {
  readonly index: BoardIndex;
  readonly readings: readonly Reading[];
  /** One text for all that was learnt. */
  readonly key: string;
}

/**
 * What readings teach of a sheet that does not know some of its values, and the readings as those
 * of the board so known.
 */
export function taughtBy(index: BoardIndex, readings: readonly Reading[]): Taught {
  const taught = taughtBoard(index, readings);
  if (taught === index) return { index, readings, key: '' };
  const key = taught.board.parts
    .flatMap((part) =>
      part.kind === 'resistor' && part.unknown ? [`${part.ref}=${part.resistanceOhm}`] : [],
    )
    .join();
  return { index: taught, readings: readings.map((reading) => onBoard(taught, reading)), key };
}

/** A reading with its points on another board of the same nets and pins. */
function onBoard(index: BoardIndex, reading: Reading): Reading {
  const { setup, kind, at, to, observable } = reading.measurement;
  const found = resolveMeasurement(
    index,
    setup,
    kind,
    observable?.name ?? pointText(at),
    observable ? '' : pointText(to),
  );
  return found.ok ? { ...reading, measurement: found.measurement } : reading;
}

/**
 * The board with those resistors that the sheet does not know and that a reading was taken across:
 * at the value at which a sound board reads so. The same board where nothing was learnt. A reading
 * that what lies beside it cannot give at any value teaches nothing.
 */
function taughtBoard(index: BoardIndex, readings: readonly Reading[]): BoardIndex {
  let taught = index;
  for (const part of index.board.parts) {
    if (part.kind !== 'resistor' || !part.unknown) continue;
    const ohm = learn(taught, part, readings);
    if (ohm !== undefined) taught = withOhm(taught, part, ohm);
  }
  return taught;
}

function withOhm({ board }: BoardIndex, part: Resistor, resistanceOhm: number): BoardIndex {
  return indexBoard({
    ...board,
    parts: board.parts.map((one) =>
      one.ref === part.ref ? { ...part, resistanceOhm, tolerance: TAUGHT_TOLERANCE } : one,
    ),
  });
}

/**
 * The value of a resistor by the last reading across it; undefined where there is none, or none
 * that it could explain.
 */
function learn(
  index: BoardIndex,
  part: Resistor,
  readings: readonly Reading[],
): number | undefined {
  const ends = endsOf(part.pins);
  const across = readings.filter(
    ({ measurement: m, value }) =>
      m.kind === 'resistance' && typeof value === 'number' && endsOf([m.at.net, m.to.net]) === ends,
  );
  const reading = across.at(-1);
  if (!reading) return undefined;
  const wanted = reading.value as number;
  const shown = (ohm: number): number => {
    const answer = new BenchState(withOhm(index, part, ohm), {
      setup: 'off',
      faults: [],
      absent: reading.absent ?? [],
    }).respond(reading.measurement);
    return 'ok' in answer ? Infinity : answer.value;
  };
  let [low, high] = [Math.log(SOLD_OHM.least), Math.log(SOLD_OHM.most)];
  if (shown(SOLD_OHM.least) > wanted || shown(SOLD_OHM.most) < wanted) return undefined;
  for (let i = 0; i < HALVINGS && high - low > 1e-3; i += 1) {
    const middle = (low + high) / 2;
    if (shown(Math.exp(middle)) < wanted) low = middle;
    else high = middle;
  }
  return Math.exp((low + high) / 2);
}

const endsOf = (nets: readonly string[]): string => nets.map(nameKey).sort().join(' ');
