import { MAX_ISSUES, type FileIssue } from '../../issue';
import { clip } from '../deck-elements';
import {
  emptyNetlist,
  joinPin,
  nameFrom,
  partNamed,
  type RawNetlist,
  type RawResult,
} from './raw-netlist';

/** Words that stand before a line where a file names its lines. */
const FIELD: Readonly<Record<string, 'ref' | 'footprint' | 'value' | 'device'>> = {
  DESIGNATOR: 'ref',
  FOOTPRINT: 'footprint',
  PARTTYPE: 'value',
  DESCRIPTION: 'device',
};

/**
 * Reads the bracketed netlist: `[` designator, footprint, device, value, a line each `]`, then `(`
 * net, a line `REF-PIN` for each pin `)`. Lines may carry their names before them, as in the second
 * version of the form.
 */
export function readBracketed(source: string): RawResult {
  const netlist = emptyNetlist('netlist');
  const issues: FileIssue[] = [];
  const lines = source.split(/\r\n|\n|\r/);
  let block:
    { readonly opens: string; readonly line: number; readonly lines: string[] } | undefined;
  for (let i = 0; i < lines.length && issues.length < MAX_ISSUES; i += 1) {
    const text = lines[i]!.trim();
    if (!block) {
      if (text === '[' || text === '(' || text === '{')
        block = { opens: text, line: i + 1, lines: [] };
      else if (text !== '' && netlist.parts.size === 0) netlist.title = clip(text, 200);
      continue;
    }
    if (text === CLOSES[block.opens]) {
      const issue = take(netlist, block.opens, block.lines);
      if (issue) issues.push({ line: block.line, ...issue });
      block = undefined;
    } else block.lines.push(text);
  }
  if (block)
    issues.push({
      line: block.line,
      what: `a ${block.opens} that is never closed`,
      expected: `a line with ${CLOSES[block.opens]}`,
    });
  return issues.length > 0 ? { ok: false, issues } : { ok: true, netlist };
}

const CLOSES: Readonly<Record<string, string>> = { '[': ']', '(': ')', '{': '}' };

function take(
  netlist: RawNetlist,
  opens: string,
  lines: readonly string[],
): Omit<FileIssue, 'line'> | undefined {
  if (opens === '{') return undefined;
  return opens === '[' ? takePart(netlist, lines) : takeNet(netlist, lines);
}

function takePart(
  netlist: RawNetlist,
  lines: readonly string[],
): Omit<FileIssue, 'line'> | undefined {
  const named = lines.some((line) => line === 'DESIGNATOR');
  const fields: Record<'ref' | 'footprint' | 'value' | 'device', string> = {
    ref: '',
    footprint: '',
    value: '',
    device: '',
  };
  if (named)
    lines.forEach((line, i) => {
      const field = FIELD[line];
      const next = lines[i + 1];
      if (field && next !== undefined && next !== '*' && !(next in FIELD)) fields[field] = next;
    });
  else {
    const said = lines.filter((line) => line !== '');
    // Three lines are designator, footprint and value: the device is what many leave away.
    const [ref = '', footprint = '', third = '', fourth] = said;
    Object.assign(fields, {
      ref,
      footprint,
      device: fourth === undefined ? '' : third,
      value: fourth ?? third,
    });
  }
  if (fields.ref === '')
    return { what: 'a part without a designator', expected: 'its designator in the first line' };
  const part = partNamed(netlist, fields.ref);
  part.value = fields.value;
  part.device = fields.device;
  part.footprint = fields.footprint;
  return undefined;
}

function takeNet(
  netlist: RawNetlist,
  lines: readonly string[],
): Omit<FileIssue, 'line'> | undefined {
  const [name = '', ...pins] = lines.filter((line) => line !== '');
  if (name === '') return { what: 'a net without a name', expected: 'its name in the first line' };
  for (const line of pins) {
    // Behind the pin some say what the part calls it.
    const [place = '', called] = line.split(/\s+/);
    const dash = place.lastIndexOf('-');
    if (dash < 1 || dash === place.length - 1)
      return { what: `"${clip(line)}" in net ${clip(name)}`, expected: 'a pin such as U7-11' };
    const suffix = called === undefined ? -1 : called.lastIndexOf('-');
    const pinName = suffix >= 0 ? called!.slice(suffix + 1) : '';
    joinPin(netlist, place.slice(0, dash), {
      pin: place.slice(dash + 1),
      net: nameFrom(name),
      ...(pinName && /[A-Za-z+]/.test(pinName) ? { name: pinName } : {}),
    });
  }
  return undefined;
}
