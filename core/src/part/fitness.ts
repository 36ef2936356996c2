import { GROUND, nameKey, type Part } from '../board';
import { formatCompact, parseQuantity } from '../quantity';

/** What is offered as a replacement, as far as it was written down. SI units. */
export interface OfferedPart {
  readonly value?: number;
  readonly ratedVolt?: number;
}

/** A reason for or against a replacement. stop: not to be fitted. warn: think twice. ok: checked and right. */
export interface FitnessRemark {
  readonly level: 'stop' | 'warn' | 'ok';
  readonly text: string;
}

/** Share by which a replacement capacitor's value may differ. Common practice, no published source. */
const CAPACITANCE_MARGIN = 0.2;

/** Reads what was written for a fitted part: `470u 35V`, `4k7`. Words that are not quantities are left alone. */
export function parseOffered(text: string): OfferedPart {
  let offered: { value?: number; ratedVolt?: number } = {};
  for (const word of text.trim().split(/[\s,/]+/)) {
    const parsed = parseQuantity(word);
    if (!parsed.ok || parsed.value === 'OL') continue;
    if (parsed.unit === 'V') offered = { ...offered, ratedVolt: parsed.value };
    else offered.value ??= parsed.value;
  }
  return offered;
}

/** Judges a replacement against the part it is to replace. Rules: equal value within the margin of the kind, rated volts equal or higher, never lower.
 *  Common practice, no published source. */
export function judgeReplacement(original: Part, offered: OfferedPart): readonly FitnessRemark[] {
  if (original.kind === 'capacitor') return judgeCapacitor(original, offered);
  if (original.kind === 'resistor') return judgeResistor(original, offered);
  if (original.kind === 'fuse') return [{ level: 'warn', text: 'same current, speed, voltage and breaking capacity as the one that came off; never bridged' }];
  return [];
}

function judgeCapacitor(original: Extract<Part, { kind: 'capacitor' }>, offered: OfferedPart): FitnessRemark[] {
  const remarks: FitnessRemark[] = [];
  const wanted = formatCompact(original.capacitanceFarad, 'F');
  if (offered.value === undefined) remarks.push({ level: 'warn', text: `no value written: the board wants ${wanted}` });
  else {
    const ratio = offered.value / original.capacitanceFarad;
    const fits = ratio >= 1 - CAPACITANCE_MARGIN - 1e-9 && ratio <= 1 + CAPACITANCE_MARGIN + 1e-9;
    remarks.push(
      fits
        ? { level: 'ok', text: `${formatCompact(offered.value, 'F')} is within 20 % of ${wanted}` }
        : { level: 'stop', text: `${formatCompact(offered.value, 'F')} is not within 20 % of ${wanted}` },
    );
  }
  if (original.ratedVolt === undefined) return remarks;
  if (offered.ratedVolt === undefined) remarks.push({ level: 'warn', text: `no rated voltage written: at least ${original.ratedVolt} V` });
  else if (offered.ratedVolt < original.ratedVolt)
    remarks.push({ level: 'stop', text: `${offered.ratedVolt} V is below the ${original.ratedVolt} V of the one that came off` });
  else remarks.push({ level: 'ok', text: `${offered.ratedVolt} V is enough (${original.ratedVolt} V came off)` });
  return remarks;
}

function judgeResistor(original: Extract<Part, { kind: 'resistor' }>, offered: OfferedPart): FitnessRemark[] {
  const wanted = formatCompact(original.resistanceOhm, 'ohm');
  if (offered.value === undefined) return [{ level: 'warn', text: `no value written: the board wants ${wanted}` }];
  const margin = original.tolerance ?? 0.05;
  const fits = Math.abs(offered.value / original.resistanceOhm - 1) <= margin + 1e-9;
  return [
    fits
      ? { level: 'ok', text: `${formatCompact(offered.value, 'ohm')} fits ${wanted}` }
      : { level: 'stop', text: `${formatCompact(offered.value, 'ohm')} is not ${wanted}` },
  ];
}

/** True for parts that only work one way round. */
export function isPolarised(part: Part): boolean {
  if (part.kind === 'capacitor') return part.dielectric === 'electrolytic' || part.dielectric === 'polymer' || part.dielectric === 'tantalum';
  return part.kind === 'diode' || part.kind === 'transistor';
}

/** How a polarised part goes in, by its own marking and the nets of the board; undefined where it does not matter. */
export function orientation(part: Part): string | undefined {
  if (!isPolarised(part)) return undefined;
  const [first, second, third] = part.pins.map((net) => (nameKey(net) === GROUND ? 'ground' : net));
  if (part.kind === 'diode') return `band (cathode) to ${second}`;
  if (part.kind === 'transistor') return `collector ${first}, base ${second}, emitter ${third}`;
  const stripe = part.kind === 'capacitor' && part.dielectric === 'tantalum' ? `marked end (plus) to ${first}` : `stripe (minus) to ${second}`;
  return `plus to ${first}, ${stripe}`;
}
