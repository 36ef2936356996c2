import { compileExpression, FunctionTextError, type Evaluate, type Slots } from './expression';
import { HIGH, LOW, PULSE, UNKNOWN, type Level } from './level';

/** What a chip drives on one output pin. `enable` is HIGH for an output without an enable. */
export interface DrivenOutput {
  readonly name: string;
  readonly level: Level;
  readonly enable: Level;
}

interface OutputRule {
  readonly name: string;
  readonly slot: number;
  readonly value: Evaluate;
  readonly enable: Evaluate | undefined;
}

interface RegisterRule {
  readonly slot: number;
  readonly next: Evaluate;
  /**
   * Edge: the clock and the level it goes to. Latch: transparent while the level is 1. Undefined:
   * only clear and set act.
   */
  readonly clock:
    | { readonly value: Evaluate; readonly to: Level }
    | { readonly value: Evaluate; readonly to: undefined }
    | undefined;
  readonly clear: Evaluate | undefined;
  readonly set: Evaluate | undefined;
}

/**
 * A chip's function, compiled. Slots hold inputs, then registers and outputs; `memory` is what the
 * chip remembers between calls.
 */
export interface Program {
  readonly inputs: readonly string[];
  readonly outputs: readonly string[];
  readonly slotCount: number;
  readonly inputSlot: ReadonlyMap<string, number>;
  readonly registers: readonly RegisterRule[];
  readonly rules: readonly OutputRule[];
}

/** What a chip remembers: its registers, the clock levels and the inputs of the last call. */
export interface Memory {
  readonly slots: Slots;
  readonly clocks: Uint8Array;
  fresh: boolean;
}

/** A chip that has just been switched on: every register unknown. */
export function emptyMemory(program: Program): Memory {
  return {
    slots: new Uint8Array(program.slotCount).fill(UNKNOWN),
    clocks: new Uint8Array(program.registers.length).fill(UNKNOWN),
    fresh: true,
  };
}

export function copyMemory(memory: Memory): Memory {
  return { slots: memory.slots.slice(), clocks: memory.clocks.slice(), fresh: memory.fresh };
}

/**
 * Compiles the statements of a chip's function. Order matters only between outputs and helpers: a
 * name is computed before it is used.
 *
 *      Y = !(A & B)                       an output or a helper
 *      Y = A when !G                      a three-state output
 *      q <= D on rise(CK), clear !CLR     a register; also fall(…); clear and set act at once
 *      q <= D while E                     a latch
 *
 * inputs: names of the input pins. Throws FunctionTextError where the text is wrong.
 */
export function compileProgram(statements: readonly string[], inputs: readonly string[]): Program {
  const slots = new Map<string, number>(inputs.map((name, i) => [name, i]));
  const parsed = statements.map(splitStatement);
  // A pin that is input and output has two slots: inside expressions its name means what stands at
  // the pin.
  const target = (name: string): string => (inputs.includes(name) ? `${name}=` : name);
  for (const { name } of parsed) {
    if (slots.has(target(name))) throw new FunctionTextError(`${name} is defined twice`);
    slots.set(target(name), slots.size);
  }
  const compile = (text: string): Evaluate =>
    compileExpression(text, (name) => {
      const slot = slots.get(name);
      if (slot === undefined) throw new FunctionTextError(`nothing is called ${name} in "${text}"`);
      return slot;
    });
  const registers: RegisterRule[] = [];
  const rules: OutputRule[] = [];
  for (const { name, kind, body, tail } of parsed) {
    const slot = slots.get(target(name))!;
    if (kind === '=')
      rules.push({ name, slot, value: compile(body), enable: tail ? compile(tail) : undefined });
    else registers.push(registerRule(slot, body, compile));
  }
  return {
    inputs,
    outputs: rules.map(({ name }) => name),
    slotCount: slots.size,
    inputSlot: new Map(inputs.map((name, i) => [name, i])),
    registers,
    rules,
  };
}

function splitStatement(text: string): {
  name: string;
  kind: '=' | '<=';
  body: string;
  tail: string | undefined;
} {
  const match = /^\s*([A-Za-z_][A-Za-z0-9_]*)\s*(<=|=)\s*(.+)$/s.exec(text);
  if (!match) throw new FunctionTextError(`cannot read the statement "${text}"`);
  const [, name, kind, rest] = match as unknown as [string, string, '=' | '<=', string];
  if (kind === '<=') return { name, kind, body: rest, tail: undefined };
  const [body, tail, ...more] = rest.split(/\bwhen\b/);
  if (more.length > 0) throw new FunctionTextError(`"when" is there twice in "${text}"`);
  return { name, kind, body: body!, tail };
}

function registerRule(
  slot: number,
  body: string,
  compile: (text: string) => Evaluate,
): RegisterRule {
  const clear = /,\s*clear\s+([^,]+)/.exec(body)?.[1];
  const set = /,\s*set\s+([^,]+)/.exec(body)?.[1];
  const main = body.replace(/,\s*(clear|set)\s+[^,]+/g, '').trim();
  const edge = /^(.+)\bon\s+(rise|fall)\((.+)\)$/s.exec(main);
  const latch = /^(.+)\bwhile\b(.+)$/s.exec(main);
  const ends = { clear: clear ? compile(clear) : undefined, set: set ? compile(set) : undefined };
  if (edge)
    return {
      slot,
      next: compile(edge[1]!),
      clock: { value: compile(edge[3]!), to: edge[2] === 'rise' ? HIGH : LOW },
      ...ends,
    };
  if (latch)
    return {
      slot,
      next: compile(latch[1]!),
      clock: { value: compile(latch[2]!), to: undefined },
      ...ends,
    };
  throw new FunctionTextError(
    `register without "on rise(…)", "on fall(…)" or "while …" in "${body}"`,
  );
}

/**
 * Shows a chip new input levels and says what it drives. memory is changed: registers take what
 * their clocks and latches ask for, the data being
 * what stood at the inputs before this call (set-up time), so that a clock common to several chips
 * shifts and does not run through.
 */
export function runProgram(
  program: Program,
  inputs: Uint8Array,
  memory: Memory,
): readonly DrivenOutput[] {
  const { slots } = memory;
  const before = slots.slice();
  if (memory.fresh) before.set(inputs);
  slots.set(inputs);
  for (let i = 0; i < program.registers.length; i += 1)
    stepRegister(program.registers[i]!, i, before, memory);
  memory.fresh = false;
  return program.rules.map(({ name, slot, value, enable }) => {
    slots[slot] = value(slots);
    return { name, level: slots[slot] as Level, enable: enable ? enable(slots) : HIGH };
  });
}

function stepRegister(rule: RegisterRule, i: number, before: Slots, memory: Memory): void {
  const { slots, clocks } = memory;
  const clear = rule.clear?.(slots) ?? LOW;
  const set = rule.set?.(slots) ?? LOW;
  const clock = rule.clock!;
  const now = clock.value(slots);
  const last = clocks[i] as Level;
  // A pulsing clock counts as seen only once clear and set have let go.
  clocks[i] = now === PULSE && (clear !== LOW || set !== LOW) ? UNKNOWN : now;
  if (clear === HIGH) return void (slots[rule.slot] = LOW);
  if (set === HIGH) return void (slots[rule.slot] = HIGH);
  let next = slots[rule.slot] as Level;
  if (clock.to === undefined) next = latched(rule, now, slots);
  else if (now === PULSE) next = pulsed(rule, last !== PULSE, slots);
  else if (last !== now && !memory.fresh) next = atEdge(rule, clock.to, last, now, before, slots);
  slots[rule.slot] = unsettledBy(clear, LOW, unsettledBy(set, HIGH, next));
}

function latched(rule: RegisterRule, enable: Level, slots: Slots): Level {
  const held = slots[rule.slot] as Level;
  if (enable === LOW) return held;
  const data = rule.next(slots);
  if (enable === HIGH || data === held) return data;
  return enable === PULSE ? data : UNKNOWN;
}

/**
 * A register whose clock never rests takes what its data settles on; data that follows its own
 * output makes it pulse. Where the way back runs
 * through other chips the data is not known at first: it is then taken to pulse, and the next call
 * says whether that holds.
 */
function pulsed(rule: RegisterRule, first: boolean, slots: Slots): Level {
  const held = slots[rule.slot]!;
  slots[rule.slot] = PULSE;
  const next = rule.next(slots);
  slots[rule.slot] = held;
  return first && next === UNKNOWN ? PULSE : next;
}

function atEdge(
  rule: RegisterRule,
  to: Level,
  last: Level,
  now: Level,
  before: Slots,
  slots: Slots,
): Level {
  const held = slots[rule.slot] as Level;
  const certain = now === to && last === (to === HIGH ? LOW : HIGH);
  const possible = certain || (now === to && last === UNKNOWN) || (now === UNKNOWN && last !== to);
  if (!possible) return held;
  const data = rule.next(before);
  return certain || data === held ? data : UNKNOWN;
}

/** An asynchronous input of unknown level may or may not have acted. */
function unsettledBy(control: Level, wouldBe: Level, value: Level): Level {
  if (control === LOW || value === wouldBe) return value;
  return control === PULSE ? PULSE : UNKNOWN;
}
