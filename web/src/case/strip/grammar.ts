import { FindingKind } from '@hanzai/core/bench';
import type { UnitModel } from '@hanzai/core/block';
import {
  isDesignator,
  nameKey,
  partValue,
  replaceablePart,
  type BoardIndex,
  type Setup,
} from '@hanzai/core/board';
import {
  doubtOf,
  parseReadingValue,
  parseShorthand,
  tidyShorthand,
  unitOf,
  type Measurement,
  type ReadingKind,
  type ReadingValue,
} from '@hanzai/core/instrument';
import { parseQuantity } from '@hanzai/core/quantity';
import { EntryBody } from '../entry';
import { shorthandAround } from '../wording';
import { readRun } from './read-run';

// One grammar for everything that the strip takes. docs/formats/strip.md describes it.

/** Where a bare value belongs. */
export interface ProposedPoints {
  readonly setup: Setup;
  readonly kind: ReadingKind;
  readonly at: string;
  readonly to: string;
}

/** What a line of the strip is read against. */
export interface StripContext {
  readonly index: BoardIndex;
  /** Whether parts and nets are those of a sheet; else any name may come into being. */
  readonly hasSheet: boolean;
  /** The reading that a bare value is taken for, and those that follow it in a list, in order. */
  readonly list: readonly ProposedPoints[];
  readonly model: UnitModel | undefined;
  /** How likely a part is guilty, for a verdict that is typed. */
  readonly chance: (ref: string) => number;
}

/** One thing that Enter does. doubt: what is asked before it is done. */
export type StripItem =
  | {
      readonly kind: 'reading';
      readonly measurement: Measurement;
      readonly value: ReadingValue;
      readonly typed: string;
      readonly doubt?: string;
    }
  | { readonly kind: 'entry'; readonly body: EntryBody; readonly typed: string }
  /** Takes the last one back, or files again what was taken back last. */
  | { readonly kind: 'back' }
  | { readonly kind: 'again' };

export type StripLine =
  | { readonly ok: true; readonly items: readonly StripItem[] }
  | {
      readonly ok: false;
      readonly empty: boolean;
      /** How far it got. */
      readonly understood: string;
      readonly expected: string;
    };

type Failure = Extract<StripLine, { ok: false }>;
const fail = (understood: string, expected: string): Failure => ({
  ok: false,
  empty: false,
  understood,
  expected,
});
const done = (...items: StripItem[]): StripLine => ({ ok: true, items });
const entry = (body: EntryBody): StripLine => done({ kind: 'entry', body, typed: '' });

/** A body that the journal takes; undefined where a number of it is beyond all reason. */
const fitting = (body: EntryBody): EntryBody | undefined =>
  EntryBody.safeParse(body).success ? body : undefined;

/** The most that a line files at once: a column of values, not a file. */
const MOST_ITEMS = 60;

/**
 * Reads a line of the strip: readings, lines of the ledger, starts, verdicts and words, several
 * with `;` between them. Words to the end of the line (`note`, `symptom`, `leave`) keep a `;`.
 */
export function parseStrip(context: StripContext, text: string): StripLine {
  const items: StripItem[] = [];
  let rest = text.trim();
  if (rest === '')
    return {
      ok: false,
      empty: true,
      understood: '',
      expected: 'a point and a value, for example r12 4k7',
    };
  while (rest !== '') {
    const end = takesTheRest(context, rest) ? -1 : rest.indexOf(';');
    const one = end < 0 ? rest : rest.slice(0, end);
    rest = end < 0 ? '' : rest.slice(end + 1).trim();
    if (one.trim() === '') continue;
    const read = parseOne({ ...context, list: leftOf(context.list, items) }, one.trim());
    if (!read.ok)
      return items.length === 0
        ? read
        : {
            ...read,
            understood: `${items.length} before it, then ${read.understood || `"${one.trim()}"`}`,
          };
    items.push(
      ...read.items.map((item) => (item.kind === 'entry' ? { ...item, typed: one.trim() } : item)),
    );
    if (items.length > MOST_ITEMS) return fail(`${items.length} at once`, `at most ${MOST_ITEMS}`);
  }
  return items.length === 0
    ? { ok: false, empty: true, understood: '', expected: 'something between the semicolons' }
    : done(...items);
}

/** The points of a list that no item before has read. */
function leftOf(
  list: readonly ProposedPoints[],
  before: readonly StripItem[],
): readonly ProposedPoints[] {
  const passed = (item: StripItem): boolean =>
    item.kind === 'reading' || (item.kind === 'entry' && item.body.kind === 'skip');
  return list.slice(before.filter(passed).length);
}

/** Words that stand for something to do; a point of the board with the same name goes first. */
const COMMANDS: Readonly<Record<string, (rest: string, context: StripContext) => StripLine>> = {
  note: (text) =>
    text === '' ? fail('note', 'what was found, such as note flux under u7') : entry(finding(text)),
  symptom: (text) =>
    text === ''
      ? fail('symptom', 'what it does, such as symptom lamp stays dark')
      : entry({ kind: 'symptom', text }),
  leave: (where) =>
    where === ''
      ? fail('leave', 'where the work is left, such as leave board out, U7 lifted')
      : entry({ kind: 'pause', where }),
  seen: readSeen,
  start: readStart,
  code: (code) =>
    /^\S{1,20}$/.test(code)
      ? entry({ kind: 'code', code })
      : fail('code', 'a code, such as code E4'),
  rail: (rest) => {
    const [net = '', written = '', ...more] = rest.split(/\s+/);
    const volt = parseQuantity(written);
    return net !== '' &&
      more.length === 0 &&
      volt.ok &&
      volt.value !== 'OL' &&
      /^(V|)$/.test(volt.unit)
      ? entry({ kind: 'rail', net, volt: volt.value })
      : fail('rail', 'a net and its volts, such as rail p5 5');
  },
  zero: (rest) => {
    const ohm = parseQuantity(rest);
    const body =
      ohm.ok && ohm.value !== 'OL' && /^(ohm|)$/.test(ohm.unit)
        ? fitting({ kind: 'leadZero', ohm: ohm.value })
        : undefined;
    return body
      ? entry(body)
      : fail('zero', 'what the ESR meter shows with its leads held together, such as zero 0.04');
  },
  alone: readAlone,
  run: (text) => {
    const read = readRun(text);
    if (!read.ok) return fail(read.understood, read.expected);
    const body = fitting(read.body);
    return body ? entry(body) : fail(`run ${text}`, 'fewer words');
  },
  condemn: (rest, context) => {
    const [ref = '', ...reason] = rest.split(/\s+/);
    const part = partNamed(context, ref);
    return part
      ? entry({
          kind: 'condemn',
          ref: part,
          probability: context.chance(part),
          reason: reason.join(' ') || 'by whoever traced it',
        })
      : fail(ref === '' ? 'condemn' : `no part "${ref}"`, 'a part, such as condemn c3');
  },
  clear: (ref, context) => {
    const part = partNamed(context, ref);
    return part
      ? entry({ kind: 'acquit', ref: part })
      : fail(ref === '' ? 'clear' : `no part "${ref}"`, 'a condemned part, such as clear c3');
  },
  back: (rest) =>
    rest === '' ? done({ kind: 'back' }) : fail('back', 'nothing more: it takes the last one back'),
  again: (rest) =>
    rest === ''
      ? done({ kind: 'again' })
      : fail('again', 'nothing more: it files again what was taken back last'),
};

/** The words that begin something else than a reading. */
export const COMMAND_WORDS: readonly string[] = Object.keys(COMMANDS);

/** The command that a text begins with; none where the board has a point of that name. */
function commandOf({ index, hasSheet }: StripContext, text: string): string | undefined {
  const word = /^\S+/.exec(text)?.[0].toLowerCase() ?? '';
  // Without a sheet the words themselves are the points.
  return Object.hasOwn(COMMANDS, word) && !(hasSheet && isPoint(index, word)) ? word : undefined;
}

const isPoint = (index: BoardIndex, word: string): boolean =>
  index.partByKey.has(nameKey(word)) || index.netByKey.has(nameKey(word));

const takesTheRest = (context: StripContext, text: string): boolean =>
  ['note', 'symptom', 'leave', 'condemn'].includes(commandOf(context, text) ?? '');

function parseOne(context: StripContext, text: string): StripLine {
  if (text === PASSED_OVER && context.list.length === 0)
    return fail('-', 'a reading that is proposed: a dash passes it over as out of reach');
  const command = commandOf(context, text);
  if (command !== undefined) return COMMANDS[command]!(text.slice(command.length).trim(), context);
  return readLedger(context, text) ?? readPairs(context, text) ?? readReadings(context, text);
}

/** The designator of a replaceable part as the board writes it. */
function partNamed({ index, hasSheet }: StripContext, word: string): string | undefined {
  if (hasSheet) return replaceablePart(index, word)?.ref;
  return isDesignator(word) ? word.toUpperCase() : undefined;
}

/** `c3 off sat minus left`, `f1 on t1a`, `r7 out`: a part, and what became of it. */
function readLedger(context: StripContext, text: string): StripLine | undefined {
  const [, name = '', what = '', said = ''] =
    /^(\S+)\s+(off|on|out)(?:\s+(.*))?$/is.exec(text) ?? [];
  const ref = name === '' ? undefined : partNamed(context, name);
  if (ref === undefined) return undefined;
  const [, words = '', note = ''] = /^(.*?)(?:(?:^|\s+)note\s+(.*))?$/is.exec(said.trim()) ?? [];
  const [, about = '', sits = ''] = /^(.*?)(?:(?:^|\s+)sat\s+(.*))?$/is.exec(words.trim()) ?? [];
  const value = about.trim();
  const sat = sits.trim() === '' ? {} : { sat: sits.trim() };
  const action = what.toLowerCase();
  if (action === 'off') {
    const cameOff = value || drawnValue(context.index, ref);
    return entry({ kind: 'removed', ref, value: cameOff, ...sat, note });
  }
  if (action === 'out')
    return words.trim() === ''
      ? entry({ kind: 'leftOut', ref, note })
      : fail(`${ref} stays off`, 'nothing more, or note and why');
  const turned = /(?:^|\s)polarity$/i.test(value);
  const fitted = value.replace(/(?:^|\s+)polarity$/i, '');
  if (fitted === '')
    return fail(
      `${ref} went on`,
      `what went on, such as ${name} on ${drawnValue(context.index, ref) || 'same'}`,
    );
  return entry({
    kind: 'fitted',
    ref,
    value: /^same$/i.test(fitted) ? drawnValue(context.index, ref) || fitted : fitted,
    polarityChecked: turned,
    ...sat,
    note,
  });
}

function drawnValue(index: BoardIndex, ref: string): string {
  const [first, ...others] = index.replaceable.get(ref) ?? [];
  if (!first || others.length > 0) return '';
  return first.kind === 'chip' ? first.model.name : partValue(first);
}

const finding = (text: string): EntryBody => ({ kind: 'finding', text });

/** `seen leak c3 8mm`: something found by eye, at the place of a part. */
function readSeen(text: string, context: StripContext): StripLine {
  const [what = '', name = '', size = '', ...more] = text.split(/\s+/);
  const kind = FindingKind.safeParse(what.toLowerCase());
  const known = FindingKind.options.join(', ');
  if (!kind.success) return fail('seen', `what it is, one of ${known}; anything else is a note`);
  const ref = partNamed(context, name);
  const place =
    ref && context.index.replaceable.get(ref)?.find((part) => part.positionMm)?.positionMm;
  if (!place)
    return fail(
      name === ''
        ? `seen ${kind.data}`
        : ref
          ? `the sheet has no place for ${ref}`
          : `no part "${name}"`,
      'a part that the sheet has a place for; say it with note, or in Look',
    );
  const [, number] = /^(\d+(?:[.,]\d+)?)(?:mm)?$/i.exec(size) ?? [];
  const sizeMm = Number(number?.replace(',', '.'));
  if (!(sizeMm > 0 && sizeMm <= 500))
    return fail(`seen ${kind.data} at ${ref}`, 'how wide it is, such as 8mm');
  return entry({
    kind: 'seen',
    what: kind.data,
    text: more.join(' '),
    sizeMm,
    certainty: 1,
    at: { xMm: place[0], yMm: place[1] },
  });
}

/** `alone c3 82u 20ua tan 0.15 esr 0.4`: a capacitor off the board, by itself. */
function readAlone(text: string, context: StripContext): StripLine {
  const [name = '', ...words] = text.split(/\s+/).filter(Boolean);
  const ref = partNamed(context, name);
  const expected = 'a part and what it measures, such as alone c3 82u 20ua tan 0.15 esr 0.4';
  if (ref === undefined) return fail(name === '' ? 'alone' : `no part "${name}"`, expected);
  const found: { farad?: number; leakAmpere?: number; dissipation?: number; esrOhm?: number } = {};
  let named = '';
  for (const word of words) {
    const lower = word.toLowerCase();
    if (named === '' && (lower === 'tan' || lower === 'esr')) {
      named = lower;
      continue;
    }
    // Farads are written as they are printed on the part: 82u.
    const read = parseQuantity(
      /^[\d.,]*[munpµ]\d*$/.test(word) && named === '' ? `${word}F` : word,
    );
    if (!read.ok || read.value === 'OL') return fail(`${ref}, then "${word}"`, expected);
    if (named === 'tan') found.dissipation = read.value;
    else if (named === 'esr') found.esrOhm = read.value;
    else if (read.unit === 'F') found.farad = read.value;
    else if (read.unit === 'A') found.leakAmpere = read.value;
    else return fail(`${ref}, then "${word}"`, expected);
    named = '';
  }
  if (named !== '' || Object.keys(found).length === 0) return fail(ref, expected);
  const body = fitting({ kind: 'offBoard', ref, ...found });
  return body ? entry(body) : fail(ref, expected);
}

/** `start ok`, `start spin 4s x3 with cold, lid open heard clicks`. */
function readStart(text: string, { model }: StripContext): StripLine {
  const [, front = '', heard = ''] = /^(.*?)(?:(?:^|\s+)heard\s+(.*))?$/is.exec(text) ?? [];
  const [, main = '', under = ''] = /^(.*?)(?:(?:^|\s+)with\s+(.*))?$/is.exec(front) ?? [];
  const [stage = '', ...more] = main.trim().split(/\s+/);
  const stages = model?.stages.map(({ name }) => name) ?? [];
  const expected = `ok, or the first stage that it does not do${stages.length > 0 ? `: ${stages.join(', ')}` : ''}`;
  if (stage === '') return fail('start', expected);
  const failedAt = /^ok$/i.test(stage)
    ? null
    : stages.length > 0
      ? stages.find((name) => nameKey(name) === nameKey(stage))
      : stage;
  if (failedAt === undefined) return fail(`no stage "${stage}"`, expected);
  let seconds: number | undefined;
  let tries = 1;
  for (const word of more) {
    const [, time] = /^(\d+(?:[.,]\d+)?)s$/i.exec(word) ?? [];
    const [, count] = /^x(\d{1,2})$/i.exec(word) ?? [];
    if (time) seconds = Number(time.replace(',', '.'));
    else if (Number(count) > 0) tries = Number(count);
    else
      return fail(
        `start ${stage}, then "${word}"`,
        'seconds (4s), tries (x3), with and conditions, or heard and what',
      );
  }
  return entry({
    kind: 'start',
    failedAt,
    ...(seconds === undefined ? {} : { seconds }),
    tries,
    sounds: heard,
    conditions: under
      .split(',')
      .map((word) => word.trim().toLowerCase())
      .filter(Boolean),
  });
}

/** `p5 vm p12 = 5.01 8.6 12.1`: points, then their values in the same order. */
function readPairs(context: StripContext, text: string): StripLine | undefined {
  const [, left, right] = /^([^=]+?)\s*=\s*([^=]*)$/s.exec(text) ?? [];
  if (left === undefined || right === undefined) return undefined;
  const [points, values] = [left, right].map((side) => side.trim().split(/\s+/).filter(Boolean));
  if (points!.length !== values!.length)
    return fail(`${points!.length} points, ${values!.length} values`, 'a value for each point');
  return each(points!.map((point, i) => readReading(context.index, `${point} ${values![i]}`)));
}

/** One reading, or a column of values for the points of the list. */
function readReadings(context: StripContext, text: string): StripLine {
  const words = tidyShorthand(text).split(/\s+/);
  const { list } = context;
  const [proposal] = list;
  // Names go before values: a net P9 is no 0.9 p.
  const isBare =
    proposal !== undefined &&
    !namesPoint(context, words[0]!, proposal) &&
    (words[0] === PASSED_OVER || completedFor(proposal, words[0]!) !== undefined);
  if (isBare) return column(context, list, words);
  const plain = readReading(context.index, text);
  if (plain.ok || words.length < 3) return plain;
  // A first point, then values for it and for those that follow it in the list.
  const from = list.findIndex(({ at }) => nameKey(at) === nameKey(words[0]!));
  return from < 0 ? plain : column(context, list.slice(from), words.slice(1));
}

/**
 * Whether a word is the name of a point, where a value is looked for: letters and a number where there
 * is no sheet. Levels and the like are words of their own, whatever nets are called.
 */
function namesPoint(
  { index, hasSheet }: StripContext,
  word: string,
  { kind }: ProposedPoints,
): boolean {
  if (kind === 'logic' || kind === 'continuity' || kind === 'symptom') return false;
  if (!hasSheet) return /^[a-z]+\d/i.test(word);
  return isPoint(index, word);
}

function column(
  { index }: StripContext,
  list: readonly ProposedPoints[],
  values: readonly string[],
): StripLine {
  if (values.length > list.length)
    return fail(
      `${values.length} values for ${list.length === 1 ? 'one point' : `${list.length} points`}`,
      'points before their values (p5 vm = 5.01 8.6), or a list of points under Next',
    );
  return each(
    values.map((value, i) => {
      if (value === PASSED_OVER) return passedOver(list[i]!);
      const line = completedFor(list[i]!, value);
      return line
        ? readReading(index, line)
        : fail(`"${value}" for ${list[i]!.at}`, 'a value of that point');
    }),
  );
}

/** In the place of a value: the probes do not reach the point. */
const PASSED_OVER = '-';

function passedOver({ setup, kind, at, to }: ProposedPoints): StripLine {
  return entry({ kind: 'skip', setup, quantity: kind, at, to, why: 'reach' });
}

function each(lines: readonly StripLine[]): StripLine {
  const bad = lines.find((line) => !line.ok);
  return bad ?? done(...lines.flatMap((line) => (line.ok ? line.items : [])));
}

/** A bare value as the whole line that files it; undefined where it is no value of that reading. */
export function completedFor(proposal: ProposedPoints, value: string): string | undefined {
  const word = tidyShorthand(value);
  if (word === '' || /\s/.test(word) || !parseReadingValue(proposal.kind, word).ok)
    return undefined;
  const [before, after] = shorthandAround(proposal.kind, proposal.setup, proposal.at, proposal.to);
  return `${before} ${word} ${after}`.trim();
}

/** A single reading; one whose unit is that of another kind is doubted, not refused. */
function readReading(index: BoardIndex, text: string): StripLine {
  const read = parseShorthand(index, text);
  if (read.ok) return reading(index, read.reading, text);
  const kind = tidyShorthand(text)
    .toLowerCase()
    .split(/\s+/)
    .flatMap((word) => KIND_BY_WORD[word] ?? [])
    .at(-1);
  const without =
    kind && tidyShorthand(text).replace(/(\d)(\s*)(?:ohms?|Ω|V|A|F|H)(?=\s|$)/i, '$1');
  const again = without === undefined ? read : parseShorthand(index, without);
  if (!kind || !again.ok) return read;
  return done({
    kind: 'reading',
    measurement: again.reading.measurement,
    value: again.reading.value,
    typed: without!,
    doubt: `${kind === 'esr' ? 'ESR' : kind} is read in ${unitOf(kind) === 'ohm' ? 'ohms' : 'volts'}: taken as that`,
  });
}

const KIND_BY_WORD: Readonly<Record<string, ReadingKind>> = {
  esr: 'esr',
  diode: 'diode',
  ohm: 'resistance',
  ohms: 'resistance',
  volts: 'voltage',
};

function reading(
  index: BoardIndex,
  { measurement, value }: { readonly measurement: Measurement; readonly value: ReadingValue },
  typed: string,
): StripLine {
  const doubt = doubtOf(index, measurement, value);
  return done({ kind: 'reading', measurement, value, typed, ...(doubt ? { doubt } : {}) });
}
