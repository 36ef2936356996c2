import { ChipModel, type ChipPin, type FamilyModel } from '../board';

/**
 * One group of like units in a package: the pins of each unit by name, and the statements with
 * those names.
 */
export interface ChipUnits {
  /**
   * One text a unit: `A=1 B=2 Y=3`. Names of a second and later unit get its number behind them.
   */
  readonly units: readonly string[];
  /** Pins that all units of the group share: `G=1`. */
  readonly shared?: string;
  readonly logic: readonly string[];
}

/** A chip as a library lists it. */
export interface ChipRow {
  /** The number in the 7400 series (`86`), or a whole name for a chip outside it. */
  readonly number: string;
  readonly title: string;
  /**
   * Pins of the package; the supply sits at the last and ground at half of them unless said
   * otherwise.
   */
  readonly pins: number;
  readonly supply?: number;
  readonly ground?: number;
  /** Families in which this row holds, where it is not all of them. */
  readonly families?: readonly string[];
  readonly groups: readonly ChipUnits[];
  /** Names of outputs that are open collector, or `all`. */
  readonly openCollector?: 'all' | readonly string[];
  readonly openEmitter?: 'all';
  /**
   * Names of inputs with Schmitt thresholds, or `all`; schmittIn: families (by name) that have
   * them, where it is not every one.
   */
  readonly schmitt?: 'all' | readonly string[];
  readonly schmittIn?: readonly string[];
  /** Output stages stronger than the family's own: bus and line buffers, peripheral drivers. */
  readonly drive?: 'buffer' | 'peripheral';
  /** Further ground pins, joined to the first inside. */
  readonly grounds?: readonly number[];
  /** The common end of the outputs' clamp diodes, where there is no supply. */
  readonly clampPin?: number;
  /** Ohms of each compared input to ground, for receivers that take volts below it. */
  readonly lineOhm?: number;
  /** Who says so: where pins and function were read. */
  readonly source?: string;
  /** Second supplies of outputs, by output name: [rail pin, sink pin]. */
  readonly rails?: Readonly<Record<string, readonly [string, string]>>;
  /** Comparator pairs: plus name to minus name. */
  readonly compares?: Readonly<Record<string, string>>;
  /** Pins that are only supplies of outputs: `VS=8`. */
  readonly railPins?: string;
  readonly supplyMilliampere?: number;
  readonly blackBox?: boolean;
}

/**
 * Expands a row into the model that a board carries. name: as written on the board, for example
 * 74LS86. Throws where the row contradicts itself.
 */
export function chipFromRow(row: ChipRow, family: FamilyModel, name: string): ChipModel {
  const pins: ChipPin[] = Array.from({ length: row.pins }, (_, i): ChipPin => ({
    name: `NC${i + 1}`,
    role: 'none',
  }));
  const place = (pin: number, made: ChipPin): void => {
    const there = pins[pin - 1];
    if (!there) throw new RangeError(`${row.number}: no pin ${pin} on a package of ${row.pins}`);
    if (there.role !== 'none' && there.name !== made.name)
      throw new RangeError(`${row.number}: pin ${pin} is ${there.name} and ${made.name}`);
    pins[pin - 1] = made;
  };
  if (row.clampPin === undefined) place(row.supply ?? row.pins, { name: 'VCC', role: 'supply' });
  else place(row.clampPin, { name: 'COM', role: 'clamp' });
  place(row.ground ?? row.pins / 2, { name: 'GND', role: 'ground' });
  for (const pin of row.grounds ?? []) place(pin, { name: `GND${pin}`, role: 'ground' });
  for (const [label, pin] of pinList(row.railPins ?? '')) place(pin, { name: label, role: 'rail' });
  const statements = row.groups.flatMap((group) => expandGroup(row, group, family.name, place));
  return ChipModel.parse({
    name,
    title: row.title,
    family,
    pins,
    function: statements,
    supplyAmpere: (row.supplyMilliampere ?? 8) * 1e-3,
    ...(row.blackBox ? { blackBox: true } : {}),
  });
}

/** `A=1 B=2` as pairs. */
function pinList(text: string): [string, number][] {
  return text
    .split(/\s+/)
    .filter(Boolean)
    .map((word) => {
      const [label = '', pin = ''] = word.split('=');
      return [label, Number(pin)];
    });
}

function expandGroup(
  row: ChipRow,
  group: ChipUnits,
  family: string,
  place: (pin: number, made: ChipPin) => void,
): string[] {
  const shared = pinList(group.shared ?? '');
  const driven = new Set(group.logic.flatMap((text) => /^\s*(\w+)\s*=/.exec(text)?.[1] ?? []));
  const read = new Set(
    group.logic.flatMap((text) => text.replace(/^\s*\w+\s*<?=/, '').match(/[A-Za-z_]\w*/g) ?? []),
  );
  return group.units.flatMap((unit, i) => {
    const suffix = group.units.length > 1 ? String(i + 1) : '';
    const own = pinList(unit);
    const local = new Set([
      ...own.map(([label]) => label),
      ...group.logic.flatMap((text) => /^\s*(\w+)\s*<?=/.exec(text)?.[1] ?? []),
    ]);
    const rename = (label: string): string =>
      local.has(label) && !shared.some(([name]) => name === label) ? label + suffix : label;
    for (const [label, pin] of [...shared, ...own])
      place(
        pin,
        pinOf(row, label, rename(label), driven.has(label), read.has(label), suffix, family),
      );
    return group.logic.map((text) => text.replace(/[A-Za-z_]\w*/g, (word) => rename(word)));
  });
}

function pinOf(
  row: ChipRow,
  label: string,
  name: string,
  driven: boolean,
  read: boolean,
  suffix: string,
  family: string,
): ChipPin {
  const lists = (list: 'all' | readonly string[] | undefined): boolean =>
    list === 'all' || list?.includes(label) === true;
  const line = row.lineOhm === undefined ? {} : { lineOhm: row.lineOhm };
  const partner = row.compares?.[label];
  if (partner !== undefined) return { name, role: 'plus', partner: partner + suffix, ...line };
  if (Object.values(row.compares ?? {}).includes(label)) return { name, role: 'minus', ...line };
  const role = driven ? (read && isPinRead(row, label) ? 'both' : 'output') : 'input';
  const rails = row.rails?.[label];
  return {
    name,
    role,
    ...(role !== 'input' && lists(row.openCollector) ? { stage: 'openCollector' as const } : {}),
    ...(role !== 'input' && lists(row.openEmitter) ? { stage: 'openEmitter' as const } : {}),
    ...(role !== 'output' && lists(row.schmitt) && (row.schmittIn?.includes(family) ?? true)
      ? { schmitt: true }
      : {}),
    ...(rails ? { rail: rails[0], sink: rails[1] } : {}),
  };
}

/**
 * An output that a statement reads is a two-way pin only where it is three-state: elsewhere the
 * chip reads its own result.
 */
function isPinRead(row: ChipRow, label: string): boolean {
  return row.groups.some(({ logic }) =>
    logic.some((text) => new RegExp(`^\\s*${label}\\s*=.*\\bwhen\\b`).test(text)),
  );
}
