import { GROUND, nameKey, pinsOn, type BoardIndex, type Part } from '../board';
import { readSize, readSpec, type LogicNeighbour, type PartRole, type Place } from '../part';
import { isOnMains } from './mains';
import { soundVolt, workingVolt } from './sound-board';

/** What the words of a sheet say that a part does. */
const ROLE_WORDS: readonly (readonly [RegExp, PartRole])[] = [
  [/\b(decoupl|bypass|blocking)/i, 'decoupling'],
  [/\b(reservoir|smooth|filter|bulk|storage)/i, 'filter'],
  [/\b(servo|loop|integrat|compensat)/i, 'servo'],
  [/\b(timing|oscillat|delay|one-shot|reset|speed)/i, 'timing'],
  [/\bcoupl/i, 'coupling'],
];
/** A capacitor from a supply to ground that is no larger than this takes the noise of chips, farad. */
const DECOUPLING_FARAD = 1e-6;

/** What the sheet and the good board know of the place of a part. parts: as they are replaced. */
export function placeOf(index: BoardIndex, parts: readonly Part[]): Place {
  const [part] = parts as readonly [Part, ...Part[]];
  const onMains = isOnMains(index, part);
  const volt = ['capacitor', 'resistor', 'diode'].includes(part.kind)
    ? workingVolt(index, part)
    : undefined;
  const room = readSize([part.note, part.role].filter(Boolean).join(' '));
  return {
    onMains,
    workingVolt: volt,
    ...(part.kind === 'resistor' && volt !== undefined && !part.unknown && parts.length === 1
      ? { workingWatt: volt ** 2 / part.resistanceOhm }
      : {}),
    ...(part.kind === 'capacitor' ? { role: roleOf(index, part, onMains) } : {}),
    ...(part.kind === 'regulator' ? { inputVolt: regulatorInput(index, part) } : {}),
    ...(part.kind === 'chip' ? neighbours(index, part) : {}),
    ...(Object.keys(room).length > 0 ? { room } : {}),
  };
}

function roleOf(
  index: BoardIndex,
  part: Extract<Part, { kind: 'capacitor' }>,
  onMains: boolean,
): PartRole | undefined {
  if (onMains) return 'safety';
  const words = [part.role, part.section].join(' ');
  const said = ROLE_WORDS.find(([pattern]) => pattern.test(words))?.[1];
  if (said) return said;
  const feeds = part.pins.some((net) =>
    pinsOn(index, net).some(
      ({ part: other }) => other.kind === 'voltageSource' || other.kind === 'regulator',
    ),
  );
  const grounded = part.pins.some((net) => nameKey(net) === GROUND);
  return feeds && grounded && part.capacitanceFarad <= DECOUPLING_FARAD ? 'decoupling' : undefined;
}

/** Volts between a regulator's input and its ground; undefined where they are not known. */
function regulatorInput(
  index: BoardIndex,
  { pins, model }: Extract<Part, { kind: 'regulator' }>,
): number | undefined {
  const [input, ground] = (['in', 'ground'] as const).map((role) =>
    soundVolt(index, pins[model.roles.indexOf(role)]!),
  );
  return typeof input === 'number' && typeof ground === 'number' ? input - ground : undefined;
}

type Chip = Extract<Part, { kind: 'chip' }>;

/** The family that a chip's name tells; undefined outside the series. */
function familyOf({ model }: Chip): string | undefined {
  const spec = readSpec(model.name);
  return spec.kind === 'logic' ? spec.family : undefined;
}

const DRIVES = ['output', 'both'];
const LISTENS = ['input', 'both'];

/** Chips that drive a chip's inputs, and those that its outputs drive; and its pull-ups. */
function neighbours(
  index: BoardIndex,
  part: Chip,
): Pick<Place, 'drivers' | 'loads' | 'pullUpVolt'> {
  const drivers: LogicNeighbour[] = [];
  const loads: (LogicNeighbour & { output: string })[] = [];
  let pullUpVolt: number | undefined;
  part.model.pins.forEach((pin, at) => {
    const net = part.pins[at]!;
    const others = pinsOn(index, net).filter(({ part: other }) => other.ref !== part.ref);
    for (const { part: other, index: there } of others) {
      if (other.kind === 'resistor' && pin.stage === 'openCollector') {
        const far = other.pins.find((name) => nameKey(name) !== nameKey(net));
        const volt = far === undefined ? null : soundVolt(index, far);
        if (volt !== null) pullUpVolt = Math.max(pullUpVolt ?? 0, volt);
      }
      if (other.kind !== 'chip') continue;
      const role = other.model.pins[there]!.role;
      if (LISTENS.includes(pin.role) && DRIVES.includes(role))
        drivers.push({ ref: other.ref, family: familyOf(other) });
      if (DRIVES.includes(pin.role) && LISTENS.includes(role))
        loads.push({ ref: other.ref, family: familyOf(other), output: pin.name });
    }
  });
  return { drivers, loads, ...(pullUpVolt === undefined ? {} : { pullUpVolt }) };
}
