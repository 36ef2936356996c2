import { z } from 'zod';

/** One thing done on the way in. What it is decides how it goes back. */
export const OpenUpStep = z.object({
  what: z.enum(['fastener', 'plug', 'flex', 'tab', 'glue', 'seal', 'lift', 'empty-hole']),
  /** Which assembly it holds or is: lid, shield, board. */
  of: z.string().trim().min(1).max(60),
  /** Fasteners: kind as the bench calls it, for example `M3 pan`; plugs and flexes: the name. */
  name: z.string().trim().max(60),
  lengthMm: z.number().positive().max(200).optional(),
  count: z.number().int().min(1).max(60),
  /** How a plug or flex lets go: pull straight, lift the bail, slide the latch. */
  way: z.string().trim().max(120),
  /**
   * Where, on the unit: 0 to 1 from left and from top; of which picture, where it was tapped on
   * one.
   */
  place: z
    .object({
      x: z.number().min(0).max(1),
      y: z.number().min(0).max(1),
      picture: z.uuid().optional(),
    })
    .optional(),
  /** What can be reached from now on: parts, nets, `board` for all of it. */
  frees: z.array(z.string().trim().min(1).max(60)).max(60),
  /**
   * Has to be on again for a test with the unit part-assembled: a plug, a heat sink, a ground
   * screw.
   */
  forTest: z.boolean(),
  note: z.string().trim().max(300),
});
export type OpenUpStep = z.infer<typeof OpenUpStep>;

/** A step as it was logged, and how many of its pieces are back on. */
export interface LoggedStep extends OpenUpStep {
  readonly id: string;
  readonly back: number;
}

/**
 * Minutes that a piece of each kind takes, coming off or going on. From memory of bench practice.
 */
// prettier-ignore
const MINUTES: Readonly<Record<OpenUpStep['what'], number>> = {
  fastener: 0.4, plug: 0.3, flex: 0.6, tab: 0.4, glue: 2, seal: 1, lift: 0.8, 'empty-hole': 0,
};

/** Minutes of a step, one way. */
export function stepMinutes({ what, count }: OpenUpStep): number {
  return MINUTES[what] * count;
}

export interface ReassemblyLine {
  readonly step: LoggedStep;
  readonly words: string;
  readonly cautions: readonly string[];
  /** Devices still to go on. */
  readonly left: number;
}

/**
 * The way back: the steps turned round, with what to mind at each. What has to go on before
 * something else always does, because it came off after it.
 */
export function reassemblyList(steps: readonly LoggedStep[]): readonly ReassemblyLine[] {
  return [...steps].reverse().map((step) => ({
    step,
    words: backWords(step),
    cautions: cautionsOf(step, steps),
    left: step.count - step.back,
  }));
}

function backWords({ what, of, name, count, lengthMm, way }: OpenUpStep): string {
  const pieces = `${count} ${name || 'screws'}${lengthMm === undefined ? '' : ` of ${lengthMm} mm`}`;
  switch (what) {
    case 'fastener':
      return `${pieces} into ${of}`;
    case 'plug':
      return `plug ${name} in at ${of}`;
    case 'flex':
      return `flex ${name} into ${of}${way ? `: the way of “${way}” back` : ''}`;
    case 'tab':
      return `tab ${name} of ${of} home`;
    case 'glue':
      return `${name || 'glue'} at ${of}: fix again`;
    case 'seal':
      return `seal ${name} at ${of}: note that it was broken`;
    case 'lift':
      return `${of} back into place`;
    case 'empty-hole':
      return `this hole of ${of} stays empty`;
  }
}

function cautionsOf(step: LoggedStep, all: readonly LoggedStep[]): string[] {
  const found: string[] = [];
  if (step.what === 'fastener' && step.lengthMm !== undefined) {
    const longer = all.filter(
      (s) =>
        s !== step &&
        s.what === 'fastener' &&
        sameKind(s, step) &&
        (s.lengthMm ?? 0) > step.lengthMm!,
    );
    if (longer.length > 0)
      found.push(
        `${longer.map((s) => `the ${s.lengthMm} mm ones of ${s.of}`).join(' and ')} fit this thread and are too long here`,
      );
  }
  if (step.what === 'plug' || step.what === 'flex')
    found.push('the right way round, and not one pin over');
  if (step.what === 'flex') found.push('look that the latch is closed on both sides');
  if (step.note) found.push(step.note);
  return found;
}

const sameKind = (a: OpenUpStep, b: OpenUpStep): boolean =>
  a.name.toLowerCase() === b.name.toLowerCase();

/**
 * Why these pieces may not go back here: undefined where they may. lengthMm: of what is about to go
 * in.
 */
export function backObjection(
  steps: readonly LoggedStep[],
  id: string,
  count: number,
  lengthMm?: number,
): string | undefined {
  const at = steps.findIndex((step) => step.id === id);
  const step = steps[at];
  if (!step) return 'no such step';
  if (step.what === 'empty-hole') return 'this hole stays empty';
  if (count > step.count - step.back)
    return `${step.count} came out and ${step.back} are back: ${count} more are too many`;
  if (step.lengthMm !== undefined && lengthMm !== undefined && lengthMm > step.lengthMm) {
    return `a screw of ${lengthMm} mm goes into a hole for ${step.lengthMm} mm: it comes through, into what lies behind`;
  }
  const inside = steps
    .slice(at + 1)
    .find((later) => later.what === 'lift' && later.back < later.count && later.of !== step.of);
  return step.what === 'lift' && inside ? `${inside.of} lies inside and is still out` : undefined;
}

/** Devices by kind and length: how many came out and how many are back. */
export interface ScrewCount {
  readonly name: string;
  readonly lengthMm: number | undefined;
  readonly out: number;
  readonly back: number;
}

export function screwBalance(steps: readonly LoggedStep[]): readonly ScrewCount[] {
  const rows = new Map<
    string,
    { name: string; lengthMm: number | undefined; out: number; back: number }
  >();
  for (const { what, name, lengthMm, count, back } of steps) {
    if (what !== 'fastener') continue;
    const key = `${name.toLowerCase()} ${lengthMm ?? ''}`;
    const row = rows.get(key) ?? { name: name || 'screw', lengthMm, out: 0, back: 0 };
    rows.set(key, { ...row, out: row.out + count, back: row.back + back });
  }
  return [...rows.values()];
}

/**
 * The least that has to go back on before a test: what is marked for it, the assemblies that carry
 * it, and what comes before those; in order of work.
 */
export function shortestWayToTest(steps: readonly LoggedStep[]): {
  readonly lines: readonly ReassemblyLine[];
  readonly minutes: number;
} {
  const needed = new Set<LoggedStep>();
  const need = (step: LoggedStep): void => {
    if (needed.has(step) || step.back >= step.count || step.what === 'empty-hole') return;
    needed.add(step);
    // What it sits on has to be there: its own assembly, where that was lifted out before or after
    // it.
    for (const other of steps)
      if (other !== step && other.what === 'lift' && other.of === step.of) need(other);
  };
  for (const step of steps) if (step.forTest) need(step);
  const lines = reassemblyList(steps).filter(({ step }) => needed.has(step));
  return {
    lines,
    minutes: lines.reduce(
      (sum, { step, left }) => sum + (stepMinutes(step) * left) / step.count,
      0,
    ),
  };
}

/**
 * What can be reached, step by step. Keys: as written in `frees`, in small letters; value: position
 * of the step that freed it.
 */
export function freedBy(steps: readonly OpenUpStep[]): ReadonlyMap<string, number> {
  const found = new Map<string, number>();
  steps.forEach(({ frees }, i) =>
    frees.forEach((name) => !found.has(name.toLowerCase()) && found.set(name.toLowerCase(), i)),
  );
  return found;
}

/**
 * Minutes until a part or net can be reached: the steps of the template that are still to be done
 * up to the one that frees it. done: steps of it done already. Zero where the template says nothing
 * of it: then it counts as open.
 */
export function accessMinutes(
  template: readonly OpenUpStep[],
  done: number,
  names: readonly string[],
): number {
  const freed = freedBy(template);
  const at = names.map((name) => freed.get(name.toLowerCase())).filter((i) => i !== undefined);
  const whole = freed.get('board');
  const last = at.length > 0 ? Math.min(...at) : whole;
  if (last === undefined || last < done) return 0;
  return template.slice(done, last + 1).reduce((sum, step) => sum + stepMinutes(step), 0);
}

/** Minutes to put everything back that is still off. */
export function minutesToGo(steps: readonly LoggedStep[]): number {
  return steps.reduce(
    (sum, step) => sum + (stepMinutes(step) * (step.count - step.back)) / step.count,
    0,
  );
}
