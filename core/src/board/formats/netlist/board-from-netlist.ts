import type { PartReport, ReadResult } from '../../issue';
import type { DeviceLibrary } from '../../library';
import { GROUND } from '../../nets';
import { blackBox, makePart, type PartSaid } from '../../part-words';
import type { Board, Part } from '../../schema';
import type { RawNetlist, RawPart, RawResult } from './raw-netlist';

/** Names that ground goes by in netlists. Common practice, no published source. */
const GROUND_NAMES = /^\/?(0|GND|GROUND|VSS|0V|COM|EARTH)$/i;

/**
 * The board that a netlist describes. Parts are what their values and designators say; what is not
 * known becomes a black box with its pins, and the report says why.
 */
export function boardFromNetlist(result: RawResult, library: DeviceLibrary): ReadResult<Board> {
  if (!result.ok) return result;
  const { netlist } = result;
  if (netlist.parts.size === 0)
    return {
      ok: false,
      issues: [{ what: 'no parts in the netlist', expected: 'at least one part' }],
    };
  const notes = [...netlist.skipped];
  const rename = namesOfNets(netlist, notes);
  const parts: Part[] = [];
  const report: PartReport[] = [];
  for (const raw of netlist.parts.values()) {
    if (raw.pins.length === 0) {
      report.push({
        ref: raw.ref,
        became: 'skipped',
        as: 'nothing',
        why: 'none of its pins is on a net',
      });
      continue;
    }
    const { part, line } = partOf(raw, rename, library);
    parts.push(part);
    report.push(line);
  }
  if (parts.length === 0)
    return { ok: false, issues: [{ what: 'no part is on a net', expected: 'nets with pins' }] };
  const count = (became: PartReport['became']): number =>
    report.filter((one) => one.became === became).length;
  notes.unshift(
    `${plural(count('understood'), 'part')} understood, ${plural(count('box'), 'black box', 'black boxes')} with pins, ${count('skipped')} skipped`,
  );
  if (!parts.some(({ kind }) => kind === 'voltageSource'))
    notes.push(
      'the list does not say what feeds the board: name its supplies, for example V1 VCC 0 5V',
    );
  return {
    ok: true,
    value: { format: 'hanzai-board', version: 1, title: netlist.title || 'netlist', parts },
    notes,
    report,
  };
}

const plural = (count: number, one: string, several = `${one}s`): string =>
  `${count} ${count === 1 ? one : several}`;

function partOf(
  raw: RawPart,
  rename: (net: string) => string,
  library: DeviceLibrary,
): { readonly part: Part; readonly line: PartReport } {
  const said: PartSaid = {
    ref: raw.ref,
    words: [...wordsOf(raw.value), ...wordsOf(raw.device)],
    pins: raw.pins.map((pin) => ({ ...pin, net: rename(pin.net) })),
    deckOrder: false,
  };
  const made = makePart(said, library);
  const more = {
    ...(raw.footprint ? { package: raw.footprint.slice(0, 80) } : {}),
  };
  if (made.ok && made.part.kind !== 'unspecified')
    return {
      part: { ...made.part, ...more },
      line: { ref: raw.ref, became: 'understood', as: made.as },
    };
  const box = blackBox(said);
  if (!box.ok) throw new Error('a black box can always be made');
  const value = [raw.value, raw.device].filter(Boolean).join(' ').slice(0, 80);
  return {
    part: { ...box.part, ...more, ...(value ? { rating: value } : {}) },
    line: {
      ref: raw.ref,
      became: 'box',
      as: box.as,
      ...(made.ok ? {} : { why: `${made.why}; expected ${made.expected}` }),
    },
  };
}

/** `10uF/16V`, `74LS14N SMD`, `LED_red`: the words of a value. */
const wordsOf = (text: string): string[] => text.split(/[\s/,;|]+|_(?=[a-z])/).filter(Boolean);

/**
 * How a board calls the nets of a list: ground is net 0, and a net of the top sheet has no slash
 * before it where no other net has that name.
 */
function namesOfNets(netlist: RawNetlist, notes: string[]): (net: string) => string {
  const nets = [
    ...new Set([...netlist.parts.values()].flatMap(({ pins }) => pins.map(({ net }) => net))),
  ];
  const bare = (net: string): string => net.replace(/^\/(?=[^/]+$)/, '');
  const taken = new Map<string, number>();
  for (const net of nets)
    taken.set(bare(net).toLowerCase(), (taken.get(bare(net).toLowerCase()) ?? 0) + 1);
  const grounds = nets.filter((net) => GROUND_NAMES.test(net));
  const ground = grounds.includes(GROUND)
    ? GROUND
    : (grounds.find((net) => /GND$/i.test(net)) ?? grounds[0]);
  if (ground === undefined)
    notes.push('no net is called ground: name the one that is, net 0 or GND');
  else if (ground !== GROUND) notes.push(`net ${ground} is taken for ground`);
  return (net) =>
    net === ground ? GROUND : taken.get(bare(net).toLowerCase()) === 1 ? bare(net) : net;
}
