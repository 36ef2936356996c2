import { compileChip, type ChipModel, type ChipPin, type FamilyModel, type Part } from '../board';
import { HIGH, LOW, UNKNOWN, type Level, type Program } from '../logic';
import {
  conductance,
  type ChipLogic,
  type Element,
  type LogicInput,
  type LogicOutput,
  type NodeName,
} from './element';
import type { DeviceKind, FaultMode } from './kind';
import { dropCharacteristic, scaledCharacteristic, supplyCharacteristic } from './characteristic';
import { SEVERITY } from './severity';
import { oncePer } from '../once-per';

type Chip = Extract<Part, { kind: 'chip' }>;

/** Protection diode of a pin. From memory of common data sheets. */
const CLAMP = { dropVolt: 0.65, ohm: 15, dropSpread: 0.03 } as const;
/** The same of a driver array's output, for half an ampere. */
const POWER_CLAMP = { dropVolt: 0.8, ohm: 1.5, dropSpread: 0.1 } as const;
/** Spread of a line receiver's input ohms between parts. From memory of common data sheets. */
const LINE_SPREAD = 0.15;
/** Spread of an output's level between parts, volt. From memory of common data sheets. */
export const STAGE_SPREAD = { high: 0.15, low: 0.04 } as const;

const isInput = ({ role }: ChipPin): boolean => role === 'input' || role === 'both';
const isOutput = ({ role }: ChipPin): boolean => role === 'output' || role === 'both';

/** The function of a chip, compiled once a model. */
export const programOf = oncePer((model: ChipModel): Program => compileChip(model));

function elements(part: Chip): readonly Element[] {
  const { model } = part;
  const places = powerPins(model);
  if (!places) return [];
  const [supply, ground] = [part.pins[places.supply]!, part.pins[places.ground]!];
  const stages = model.pins.flatMap((pin, i) => pinElements(part, i, part.pins[i]!, pin));
  const needsSupply = places.supply !== places.ground;
  const characteristic = supplyCharacteristic(
    model.supplyAmpere,
    Math.min(5, model.family.supplyMostVolt),
  );
  const load: readonly Element[] = needsSupply
    ? [
        {
          type: 'characteristic',
          a: supply,
          b: ground,
          controls: [supply, ground],
          characteristic,
          holds: false,
        },
      ]
    : [];
  return [
    { type: 'logic', logic: logicOf(part, supply, ground, needsSupply) },
    ...load,
    ...joinedGrounds(part, places.ground),
    ...stages,
  ];
}

/** Ohms between ground pins of one package. From memory of common data sheets. */
const GROUND_FRAME_OHM = 0.02;

/** Several ground pins are one piece of metal inside. */
function joinedGrounds({ model, pins }: Chip, first: number): readonly Element[] {
  return model.pins.flatMap(({ role }, i) =>
    role === 'ground' && i !== first && pins[i] !== pins[first]
      ? [conductance(pins[i]!, pins[first]!, GROUND_FRAME_OHM)]
      : [],
  );
}

/**
 * Positions of the pins a chip lives from; undefined where the model has none. A driver array
 * without a supply has its ground in both places.
 */
function powerPins(model: ChipModel): { supply: number; ground: number } | undefined {
  const supply = model.pins.findIndex(({ role }) => role === 'supply');
  const ground = model.pins.findIndex(({ role }) => role === 'ground');
  if (ground < 0) return undefined;
  if (supply < 0)
    return model.pins.some(({ role }) => role === 'clamp') ? { supply: ground, ground } : undefined;
  return { supply, ground };
}

function logicOf(part: Chip, supply: NodeName, ground: NodeName, needsSupply: boolean): ChipLogic {
  const { model, ref } = part;
  const program = programOf(model);
  const position = new Map(model.pins.map((pin, i) => [pin.name, i]));
  const inputs = program.inputs.map((name): LogicInput => {
    const pin = position.get(name)!;
    const { partner, schmitt } = model.pins[pin]!;
    return {
      pin,
      node: part.pins[pin]!,
      schmitt: schmitt === true,
      against: partner === undefined ? undefined : part.pins[position.get(partner)!]!,
    };
  });
  const outputs = program.rules.flatMap(({ name }, output): LogicOutput[] => {
    const pin = position.get(name);
    if (pin === undefined) return [];
    const { stage } = model.pins[pin]!;
    return [
      {
        pin,
        node: part.pins[pin]!,
        driver: driverName(ref, pin),
        output,
        pulls: stage === 'openCollector' ? 'low' : stage === 'openEmitter' ? 'high' : 'both',
      },
    ];
  });
  return {
    ref,
    program,
    family: model.family,
    supply,
    ground,
    inputs,
    outputs,
    needsSupply,
    dead: false,
  };
}

const driverName = (ref: string, pin: number): string => `${ref}.${pin + 1}`;

/** What one signal pin puts between its node and the chip's supplies. */
function pinElements(part: Chip, i: number, node: NodeName, pin: ChipPin): readonly Element[] {
  const { model, pins, ref } = part;
  const places = powerPins(model)!;
  const [supply, ground] = [pins[places.supply]!, pins[places.ground]!];
  const named = (name: string | undefined, otherwise: NodeName): NodeName =>
    name === undefined
      ? otherwise
      : (pins[model.pins.findIndex((p) => p.name === name)] ?? otherwise);
  const found: Element[] = [];
  const compared = pin.role === 'plus' || pin.role === 'minus';
  if (!isInput(pin) && !isOutput(pin) && !compared) return [];
  if (pin.lineOhm === undefined)
    found.push({
      type: 'characteristic',
      a: ground,
      b: node,
      controls: [ground, node],
      characteristic: dropCharacteristic(CLAMP),
      holds: false,
      pin: i,
    });
  else found.push(conductance(node, ground, pin.lineOhm, LINE_SPREAD));
  const clamp = model.pins.findIndex(({ role }) => role === 'clamp');
  if (isOutput(pin) && clamp >= 0)
    found.push({
      type: 'characteristic',
      a: node,
      b: pins[clamp]!,
      controls: [node, pins[clamp]!],
      characteristic: dropCharacteristic(POWER_CLAMP),
      holds: false,
      pin: i,
    });
  if (isInput(pin))
    found.push(...inputElements(model.family, node, supply, ground, i, tiedInputs(part, i)));
  if (isOutput(pin)) {
    const { high, low } = model.family;
    const driver = driverName(ref, i);
    const [rail, sink] = [named(pin.rail, supply), named(pin.sink, ground)];
    const scaled = model.family.ohmAtSupplyVolt;
    if (pin.stage !== 'openCollector') {
      const characteristic = dropCharacteristic({
        dropVolt: high.dropVolt,
        ohm: high.ohm,
        twoWay: !high.oneWay,
        limitAmpere: high.limitAmpere,
        dropSpread: STAGE_SPREAD.high * Math.min(1, high.dropVolt),
      });
      const stage =
        scaled === undefined
          ? { controls: [rail, node], characteristic }
          : {
              controls: [rail, node, rail, ground],
              characteristic: scaledCharacteristic(high.ohm, scaled),
            };
      found.push({
        type: 'characteristic',
        a: rail,
        b: node,
        ...stage,
        holds: true,
        gate: { driver, when: 'high' },
        pin: i,
      });
    }
    if (pin.stage !== 'openEmitter') {
      const characteristic = dropCharacteristic({
        dropVolt: low.volt,
        ohm: low.ohm,
        twoWay: true,
        limitAmpere: low.limitAmpere,
        dropSpread: STAGE_SPREAD.low,
      });
      const stage =
        scaled === undefined
          ? { controls: [node, sink], characteristic }
          : {
              controls: [node, sink, rail, ground],
              characteristic: scaledCharacteristic(low.ohm, scaled),
            };
      found.push({
        type: 'characteristic',
        a: node,
        b: sink,
        ...stage,
        holds: true,
        gate: { driver, when: 'low' },
        pin: i,
      });
    }
  }
  return found;
}

/** Names that a gate's statement takes together in one product, as `A & B` in `Y = !(A & B)`. */
const PRODUCT = /[A-Za-z_]\w*(?:\s*&\s*[A-Za-z_]\w*)+/g;
/**
 * A statement of a plain gate: names, `&`, `|` and one `!` before it all. Anything else has stages
 * of its own behind each input.
 */
const PLAIN_GATE = /^\s*\w+\s*=\s*!?\(?[\s\w&|()]*\)?\s*$/;

/**
 * Inputs that are emitters of one transistor (or diodes on one resistor): those of a plain gate's
 * product, by each of their names.
 */
const inputsTogether = oncePer((model: ChipModel): ReadonlyMap<string, readonly string[]> => {
  const found = new Map<string, readonly string[]>();
  for (const text of model.function) {
    if (!PLAIN_GATE.test(text) || text.includes(' when ') || text.includes('<=')) continue;
    for (const [product] of text.slice(text.indexOf('=') + 1).matchAll(PRODUCT)) {
      const names = product.split('&').map((name) => name.trim());
      for (const name of names) found.set(name, found.has(name) ? [] : names);
    }
  }
  return found;
});

/**
 * How many inputs of one gate lie on this pin's net, itself among them: they share the current of
 * one base resistor.
 */
function tiedInputs({ model, pins }: Chip, pin: number): number {
  const together = inputsTogether(model).get(model.pins[pin]!.name) ?? [];
  const tied = model.pins.filter(
    ({ name }, i) => together.includes(name) && pins[i] === pins[pin],
  ).length;
  return Math.max(1, tied);
}

/** tied: inputs that share one base resistor and lie on one net. */
function inputElements(
  { input, supplyClamp }: FamilyModel,
  node: NodeName,
  supply: NodeName,
  ground: NodeName,
  pin: number,
  tied: number,
): readonly Element[] {
  if (input.type === 'ttl')
    return [
      {
        type: 'characteristic',
        a: supply,
        b: node,
        controls: [supply, node, ground],
        characteristic: {
          kind: 'ttl',
          baseOhm: input.baseOhm * tied,
          dropVolt: input.dropVolt,
          floatVolt: input.floatVolt,
        },
        holds: true,
        pin,
      },
    ];
  if (input.type === 'mos' && supplyClamp === false) return [];
  if (input.type === 'mos')
    return [
      {
        type: 'characteristic',
        a: node,
        b: supply,
        controls: [node, supply],
        characteristic: dropCharacteristic(CLAMP),
        holds: false,
        pin,
      },
    ];
  const characteristic = dropCharacteristic({
    dropVolt: input.dropVolt,
    ohm: input.ohm,
    dropSpread: 0.1,
  });
  return [
    conductance(node, ground, 1e6),
    {
      type: 'characteristic',
      a: node,
      b: ground,
      controls: [node, ground],
      characteristic,
      holds: true,
      pin,
    },
  ];
}

function modes(part: Chip): readonly FaultMode[] {
  const { model } = part;
  const places = powerPins(model);
  if (!places) return [];
  const needsSupply = places.supply !== places.ground;
  const found: FaultMode[] = [
    chipMode('dead', (all) => changeLogic(all, (logic) => ({ ...logic, dead: true }))),
  ];
  if (needsSupply) found.unshift(chipMode('no-supply', (all) => withoutSupply(all)));
  model.pins.forEach((pin, i) => {
    if (isOutput(pin))
      for (const level of [LOW, HIGH] as const)
        found.push({ ...chipMode(`stuck-${level}`, (all) => stickOutput(all, i, level)), pin: i });
    if (pin.role === 'input')
      for (const level of [LOW, HIGH] as const)
        found.push({ ...chipMode(`stuck-${level}`, (all) => stickInput(all, i, level)), pin: i });
    if (isInput(pin)) {
      for (const [name, rail] of [
        ['short-0', places.ground],
        ['short-1', places.supply],
      ] as const) {
        if (name === 'short-1' && !needsSupply) continue;
        const short = (all: readonly Element[], ohm: number): readonly Element[] => [
          ...all,
          conductance(part.pins[i]!, part.pins[rail]!, ohm),
        ];
        found.push({
          name,
          effect: 'short',
          pin: i,
          severity: SEVERITY.short,
          changesDc: true,
          change: short,
        });
      }
    }
    if (isInput(pin) || isOutput(pin))
      found.push({
        ...chipMode('open', (all) => openPin(part, all, i)),
        effect: 'open',
        pin: i,
      });
  });
  return found;
}

function chipMode(
  name: string,
  change: (healthy: readonly Element[]) => readonly Element[],
): FaultMode {
  return { name, severity: { low: 1, high: 1 }, changesDc: true, change };
}

function changeLogic(
  all: readonly Element[],
  change: (logic: ChipLogic) => ChipLogic,
): readonly Element[] {
  return all.map((element) =>
    element.type === 'logic' ? { ...element, logic: change(element.logic) } : element,
  );
}

/**
 * Nothing reaches the chip's supply inside the package: it drives nothing and its inputs ask for
 * nothing.
 */
function withoutSupply(all: readonly Element[]): readonly Element[] {
  const quiet = all.filter(
    (element) => element.type !== 'characteristic' || element.gate !== undefined || !element.holds,
  );
  return changeLogic(quiet, (logic) => ({ ...logic, dead: true }));
}

function stickOutput(all: readonly Element[], pin: number, level: Level): readonly Element[] {
  return changeLogic(all, (logic) => ({
    ...logic,
    outputs: logic.outputs.map((output) =>
      output.pin === pin ? { ...output, stuck: level } : output,
    ),
  }));
}

function stickInput(all: readonly Element[], pin: number, level: Level): readonly Element[] {
  return changeLogic(all, (logic) => ({
    ...logic,
    inputs: logic.inputs.map((input) => (input.pin === pin ? { ...input, stuck: level } : input)),
  }));
}

/**
 * The bond wire of a pin is broken: the chip's side hangs free and sees what its family sees then,
 * a probe on the pin sees the net.
 */
function openPin(part: Chip, all: readonly Element[], pin: number): readonly Element[] {
  const { type } = part.model.family.input;
  const seen: Level = type === 'ttl' ? HIGH : type === 'mos' ? UNKNOWN : LOW;
  const others = all.filter((element) => element.type !== 'characteristic' || element.pin !== pin);
  return changeLogic(stickInput(others, pin, seen), (logic) => ({
    ...logic,
    outputs: logic.outputs.filter((output) => output.pin !== pin),
  }));
}

export const chip: DeviceKind<'chip'> = { kind: 'chip', elements, modes, openPin: () => 'open' };
