import { compileChip, type ChipModel } from '../board';
import { emptyMemory, HIGH, LOW, PULSE, runProgram, UNKNOWN, type Level } from '../logic';
import { oncePer } from '../once-per';

/** Outputs of a chip that hang on the same inputs, by the positions of their pins. */
export interface ChipUnit {
  readonly inputs: readonly number[];
  readonly outputs: readonly number[];
  /** Whether it remembers: then its inputs alone do not say what it drives. */
  readonly remembers: boolean;
  /** Its statements, as the chip's function has them. */
  readonly statements: readonly string[];
}

/** What an output does: a level, or none where it is switched off or lets go. */
export type Driven = '0' | '1' | 'P' | 'Z' | undefined;

/** Words of a statement that are no names. */
const WORDS = new Set([
  'on',
  'rise',
  'fall',
  'clear',
  'set',
  'while',
  'when',
  'if',
  'then',
  'else',
]);

/** The units of a chip, in the order of their first output. A black box has none. */
export const chipUnits = oncePer((model: ChipModel): readonly ChipUnit[] => {
  if (model.blackBox) return [];
  const position = new Map(model.pins.map(({ name }, i) => [name, i]));
  const statements = model.function.map((text) => {
    const [, target = '', assigns = '', body = ''] = /^\s*(\w+)\s*(<?=)\s*(.*)$/s.exec(text) ?? [];
    const names = (body.match(/[A-Za-z_]\w*/g) ?? []).filter((name) => !WORDS.has(name));
    return { target, names, text, register: assigns === '<=' };
  });
  const isInput = (name: string): boolean => {
    const pin = model.pins[position.get(name) ?? -1];
    return pin?.role === 'input' || pin?.role === 'both' || pin?.role === 'plus';
  };
  const units = new Map<string, { unit: ChipUnit; key: string }>();
  for (const { target } of statements) {
    const pin = position.get(target);
    if (pin === undefined) continue;
    // Everything that its value hangs on, through helpers and registers.
    const [seen, used] = [new Set<string>(), new Set<(typeof statements)[number]>()];
    const waiting = [target];
    for (let name = waiting.pop(); name !== undefined; name = waiting.pop()) {
      const own = statements.filter(
        (statement) => statement.target === name && !used.has(statement),
      );
      for (const statement of own) {
        used.add(statement);
        for (const next of statement.names) {
          if (seen.has(next)) continue;
          seen.add(next);
          // A pin that is both ends the search where it is read.
          if (!isInput(next)) waiting.push(next);
        }
      }
    }
    const inputs = [...seen].filter(isInput).map((name) => position.get(name)!);
    inputs.sort((a, b) => a - b);
    const key = inputs.join();
    const known = units.get(key)?.unit;
    units.set(key, {
      key,
      unit: {
        inputs,
        outputs: [...(known?.outputs ?? []), pin],
        remembers: (known?.remembers ?? false) || [...used].some(({ register }) => register),
        statements: [
          ...new Set([...(known?.statements ?? []), ...[...used].map(({ text }) => text)]),
        ],
      },
    });
  }
  return [...units.values()]
    .map(({ unit }) => unit)
    .sort((a, b) => Math.min(...a.outputs) - Math.min(...b.outputs));
});

/** The unit that an output pin belongs to. */
export const unitWith = (model: ChipModel, pin: number): ChipUnit | undefined =>
  chipUnits(model).find(({ outputs }) => outputs.includes(pin));

/**
 * What the outputs of a unit do with these levels at its pins: by position; undefined where the
 * levels do not decide it. An open-collector output that lets go is Z, and so is one that is off.
 */
export function drivenBy(
  model: ChipModel,
  unit: ChipUnit,
  levelAt: (pin: number) => Level,
): ReadonlyMap<number, Driven> {
  const program = compileChip(model);
  const inputs = Uint8Array.from(program.inputs, (name) => {
    const pin = model.pins.findIndex((one) => one.name === name);
    return unit.inputs.includes(pin) ? levelAt(pin) : UNKNOWN;
  });
  const driven = runProgram(program, inputs, emptyMemory(program));
  return new Map(
    unit.outputs.map((pin): [number, Driven] => {
      const own = driven.find(({ name }) => name === model.pins[pin]!.name);
      if (!own || own.enable === UNKNOWN || own.enable === PULSE) return [pin, undefined];
      if (own.enable === LOW) return [pin, 'Z'];
      const { stage } = model.pins[pin]!;
      if (own.level === HIGH) return [pin, stage === 'openCollector' ? 'Z' : '1'];
      if (own.level === LOW) return [pin, stage === 'openEmitter' ? 'Z' : '0'];
      return [pin, own.level === PULSE ? 'P' : undefined];
    }),
  );
}

/** One line of a truth table: levels of the inputs, and what the outputs do, in the unit's order. */
export interface TruthRow {
  readonly inputs: readonly ('0' | '1')[];
  readonly outputs: readonly Driven[];
}

/** Units with more inputs have a table that nobody reads. */
const MOST_INPUTS = 6;

/** The truth table of a unit; undefined for one that remembers, or has too many inputs. */
export function truthTable(model: ChipModel, unit: ChipUnit): readonly TruthRow[] | undefined {
  if (unit.remembers || unit.inputs.length > MOST_INPUTS || unit.inputs.length === 0)
    return undefined;
  return Array.from({ length: 2 ** unit.inputs.length }, (_, row) => {
    const bit = (i: number): 0 | 1 => ((row >> (unit.inputs.length - 1 - i)) & 1) as 0 | 1;
    const driven = drivenBy(model, unit, (pin) => (bit(unit.inputs.indexOf(pin)) ? HIGH : LOW));
    return {
      inputs: unit.inputs.map((_pin, i) => (bit(i) ? '1' : '0')),
      outputs: unit.outputs.map((pin) => driven.get(pin)),
    };
  });
}

/** A level as it was read, as a chip of this family takes it: a floating TTL input counts as 1. */
export function levelTaken(model: ChipModel, read: string | undefined): Level {
  if (read === '0') return LOW;
  if (read === '1') return HIGH;
  if (read === 'P') return PULSE;
  return read === 'Z' && model.family.input.type === 'ttl' ? HIGH : UNKNOWN;
}
