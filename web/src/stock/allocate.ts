import { equalTo, greaterEq, lessEq, solve, type Constraint, type Model } from 'yalps';

/** Something that a case needs, with the lots that may do for it. */
export interface Wanted {
  readonly key: string;
  /** Days until it was promised; undefined where nothing was. */
  readonly days: number | undefined;
  /** Ids of lots that fit, or fit with conditions. */
  readonly lots: readonly string[];
  /** Who sells something that fits. */
  readonly suppliers: readonly string[];
}

export interface Supply {
  readonly lot: string;
  readonly free: number;
}

/** Where everything comes from. */
export interface Allocation {
  /** By the key of what is wanted: the lot it comes from. */
  readonly fromStock: ReadonlyMap<string, string>;
  /** By supplier: what is ordered there. */
  readonly orders: ReadonlyMap<string, readonly string[]>;
  /** What nobody has. */
  readonly unmet: readonly string[];
  /** Promises that an order would break. */
  readonly late: readonly string[];
}

/** Days that an order takes. Common practice, to be changed by the workshop. */
export const ORDER_DAYS = 5;

/**
 * What counts, in this order: something that nobody could get; a promise broken because its part
 * has to be ordered; an order more; a part ordered that lies here. Each weighs more than all of the
 * next together for up to some hundred needs.
 */
const COST = { unmet: 1e6, late: 1e4, order: 100, ordered: 1, here: 0 } as const;

/** What an allocation costs, for comparison. */
export function costOf(
  wanted: readonly Wanted[],
  allocation: Allocation,
  orderDays = ORDER_DAYS,
): number {
  const isLate = ({ days }: Wanted): boolean => days !== undefined && days < orderDays;
  const ordered = [...allocation.orders.values()].flat();
  const late = wanted.filter((one) => isLate(one) && ordered.includes(one.key)).length;
  return (
    COST.unmet * allocation.unmet.length +
    COST.late * late +
    COST.order * allocation.orders.size +
    COST.ordered * ordered.length
  );
}

/**
 * Spreads what is there over all open cases: as few orders as can be, promises kept. Exact: a
 * programme in whole numbers, solved by branch and bound.
 */
export function allocate(
  wanted: readonly Wanted[],
  supplies: readonly Supply[],
  orderDays = ORDER_DAYS,
): Allocation {
  const variables: Record<string, Record<string, number>> = {};
  const constraints: Record<string, Constraint> = {};
  const known = new Set(supplies.map(({ lot }) => lot));
  for (const { lot, free } of supplies) constraints[`lot ${lot}`] = lessEq(free);
  wanted.forEach(({ days, lots, suppliers }, j) => {
    const need = `need ${j}`;
    constraints[need] = equalTo(1);
    const late = days !== undefined && days < orderDays ? COST.late : 0;
    for (const lot of lots)
      if (known.has(lot))
        variables[`here ${j} ${lot}`] = { [need]: 1, [`lot ${lot}`]: 1, cost: COST.here };
    for (const supplier of suppliers) {
      const open = `open ${j} ${supplier}`;
      variables[`order ${j} ${supplier}`] = { [need]: 1, [open]: -1, cost: COST.ordered + late };
      // What is ordered somewhere opens an order there.
      constraints[open] = greaterEq(0);
    }
    variables[`unmet ${j}`] = { [need]: 1, cost: COST.unmet };
  });
  for (const supplier of new Set(wanted.flatMap(({ suppliers }) => suppliers)))
    variables[`opens ${supplier}`] = {
      cost: COST.order,
      ...Object.fromEntries(
        wanted.flatMap(({ suppliers }, j) =>
          suppliers.includes(supplier) ? [[`open ${j} ${supplier}`, 1]] : [],
        ),
      ),
    };
  const model: Model = {
    direction: 'minimize',
    objective: 'cost',
    constraints,
    variables,
    binaries: true,
  };
  const { status, variables: chosen } = solve(model, { timeout: 4000 });
  if (status === 'infeasible' || status === 'unbounded')
    throw new Error(`the allocation has no solution (${status})`);
  return read(wanted, chosen, orderDays);
}

function read(
  wanted: readonly Wanted[],
  chosen: readonly (readonly [string, number])[],
  orderDays: number,
): Allocation {
  const fromStock = new Map<string, string>();
  const orders = new Map<string, string[]>();
  const met = new Set<string>();
  for (const [name, value] of chosen) {
    if (value < 0.5) continue;
    const [kind = '', number = '', ...rest] = name.split(' ');
    const one = wanted[Number(number)];
    const other = rest.join(' ');
    if (kind === 'here' && one) {
      fromStock.set(one.key, other);
      met.add(one.key);
    }
    if (kind === 'order' && one) {
      orders.set(other, [...(orders.get(other) ?? []), one.key]);
      met.add(one.key);
    }
  }
  const ordered = [...orders.values()].flat();
  return {
    fromStock,
    orders,
    unmet: wanted.filter(({ key }) => !met.has(key)).map(({ key }) => key),
    late: wanted
      .filter(({ key, days }) => ordered.includes(key) && days !== undefined && days < orderDays)
      .map(({ key }) => key),
  };
}
