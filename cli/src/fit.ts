import { placeOf } from '@hanzai/core/bench';
import { replaceablePart } from '@hanzai/core/board';
import {
  judgeFit,
  markingOf,
  PART_ROLES,
  readSize,
  readSpec,
  specOfParts,
  UNKNOWN_PLACE,
  verdictOf,
  type PartRole,
  type PartSpec,
  type Place,
} from '@hanzai/core/part';
import { parseQuantity } from '@hanzai/core/quantity';
import { LIBRARY } from '@hanzai/data';
import { InputError, readArguments, UsageError, type Arguments } from './arguments';
import { loadBoard } from './files';
import type { Output } from './verbs';

/**
 * fit --was TEXT --offer TEXT [--volts V] [--role R] [--room h=…,d=…,pitch=…], or fit BOARD REF
 * --offer TEXT: whether what is offered may take the place of what came off
 */
export function fit(words: readonly string[]): Output {
  const args = readArguments(words, ['was', 'offer', 'volts', 'role', 'room']);
  const offer = args.text('offer');
  if (offer === undefined || offer.trim() === '')
    throw new UsageError('expected --offer TEXT: what is to go on');
  const { was, place } = whatCameOff(args);
  const offered = readSpec(offer, LIBRARY, was.kind);
  const reasons = judgeFit(was, offered, { ...place, ...ofThePlace(args) });
  const verdict = verdictOf(reasons);
  const [before, now] = [markingOf(was), markingOf(offered)];
  const differs = before && now && before.sign !== now.sign;
  const marking = {
    was: before ?? null,
    offer: now ?? null,
    words: differs
      ? `${before.words} on the old one, ${now.words} on the new one`
      : (now?.words ?? 'no way round'),
  };
  const mark = { ok: '+', warn: '?', stop: '!' } as const;
  return {
    json: {
      verdict,
      reasons: reasons.map(({ level, code, text }) => ({ level, code, text })),
      marking,
    },
    text: [
      verdict,
      ...reasons.map(({ level, text }) => `  ${mark[level]} ${text}`),
      `  marking: ${marking.words}`,
    ].join('\n'),
  };
}

/** By words, or a part of a board with its place. */
function whatCameOff(args: Arguments): { readonly was: PartSpec; readonly place: Place } {
  const words = args.text('was');
  if (words !== undefined) {
    if (args.positionals.length > 0)
      throw new UsageError('expected --was TEXT or BOARD REF, not both');
    return { was: readSpec(words, LIBRARY), place: UNKNOWN_PLACE };
  }
  const [file, ref, ...more] = args.positionals;
  if (file === undefined || ref === undefined || more.length > 0)
    throw new UsageError('expected BOARD REF --offer TEXT, or --was TEXT --offer TEXT');
  const index = loadBoard(file);
  const parts = replaceablePart(index, ref)?.parts;
  if (!parts) throw new InputError(`no part ${ref} on this board; expected one such as C3`);
  return { was: specOfParts(parts), place: placeOf(index, parts) };
}

/** What the call itself says of the place. */
function ofThePlace(args: Arguments): Partial<Place> {
  const [volts, role, room] = [args.text('volts'), args.text('role'), args.text('room')];
  return {
    ...(volts === undefined ? {} : voltsOf(volts)),
    ...(role === undefined ? {} : { role: roleOf(role) }),
    ...(room === undefined ? {} : { room: roomOf(room) }),
  };
}

function voltsOf(text: string): Partial<Place> {
  const parsed = parseQuantity(text);
  if (!parsed.ok || parsed.value === 'OL' || !['', 'V'].includes(parsed.unit))
    throw new InputError(`--volts: "${text}" is no voltage; expected one such as 12 or 3V3`);
  const volt = Math.abs(parsed.value);
  return { workingVolt: volt, inputVolt: volt };
}

function roleOf(text: string): PartRole {
  const found = PART_ROLES.find((role) => role === text.trim().toLowerCase());
  if (!found) throw new InputError(`--role: unknown "${text}"; expected ${PART_ROLES.join(', ')}`);
  return found;
}

function roomOf(text: string): ReturnType<typeof readSize> {
  const room = readSize(text);
  if (Object.keys(room).length === 0)
    throw new InputError(`--room: "${text}" says no measure; expected h=11,d=6.3,pitch=2.5 (mm)`);
  return room;
}
