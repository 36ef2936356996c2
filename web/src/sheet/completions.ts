import { isUnsaid, nameKey, type Board } from '@hanzai/core/board';

/** What may stand at a place, with a word on what it is. */
export interface Offer {
  readonly label: string;
  readonly detail?: string;
  readonly type: 'part' | 'net' | 'chip' | 'pin' | 'word';
}

const WORDS = [
  'title',
  'outline',
  'edge',
  'point',
  'setup',
  'see',
  'hazard',
  'model',
  '==',
] as const;
const LETTERS = ['R', 'C', 'L', 'D', 'Q', 'U', 'F', 'S', 'J', 'RN', 'M', 'K', 'T', 'V'] as const;
/** What is written behind the nets of a part, by its letters. */
// prettier-ignore
const BEHIND: Readonly<Record<string, readonly string[]>> = {
  C: ['electrolytic', 'ceramic', 'film', 'tantalum', 'bipolar', 'esr=', 'role='], R: ['tol=', 'role='], L: ['dcr=', 'role='], M: ['dcr=', 'role='],
  D: ['1N4148', '1N4001', 'LED', 'schottky', 'zener', 'a=', 'k='], Q: ['NPN', 'PNP', '2N3904', '2N3906', 'b=', 'c=', 'e='], F: ['T1A', 'F500mA', 'T315mA'], S: ['open'],
  RN: ['isolated', 'common', 'sil', 'x4', 'x8'], J: ['in:', '1=', '2='], K: ['relay', 'coil1=', 'coil2=', 'common=', 'rest=', 'work='],
};

const lettersOf = (ref: string): string => /^[A-Za-z]+/.exec(ref)?.[0].toUpperCase() ?? '';

/** The next free designator of each kind. */
function freeRefs({ parts }: Board): Offer[] {
  return LETTERS.map((letters) => {
    const numbers = parts
      .filter(({ ref }) => lettersOf(ref) === letters)
      .map(({ ref }) => Number(/\d+/.exec(ref)?.[0] ?? 0));
    return { label: `${letters}${Math.max(0, ...numbers) + 1}`, type: 'part', detail: 'next free' };
  });
}

/** The nets of a sheet, those with most pins first. */
export function netsByUse({ parts }: Board): string[] {
  const uses = new Map<string, { net: string; count: number }>();
  for (const { pins } of parts)
    for (const net of pins) {
      if (isUnsaid(net)) continue;
      const use = uses.get(nameKey(net)) ?? { net, count: 0 };
      uses.set(nameKey(net), { ...use, count: use.count + 1 });
    }
  return [...uses.values()].sort((a, b) => b.count - a.count).map(({ net }) => net);
}

/**
 * What may come next on a line of which `before` stands to the left. chips: numbers of the library.
 */
export function completionsAt(before: string, board: Board, chips: readonly string[]): Offer[] {
  const nets = netsByUse(board).map((label): Offer => ({ label, type: 'net' }));
  const words = before.trimStart().split(/\s+/);
  const last = words.at(-1) ?? '';
  if (words.length <= 1)
    return [...freeRefs(board), ...WORDS.map((label): Offer => ({ label, type: 'word' }))];
  if (/=[^=]*$/.test(last) && !/^(tol|esr|dcr|role|package|fit|rating)=/.test(last)) return nets;
  const [ref = ''] = words;
  if (['edge', 'point', 'see', 'setup'].includes(ref)) return nets;
  const letters = lettersOf(ref);
  const behind = (BEHIND[letters] ?? []).map((label): Offer => ({ label, type: 'word' }));
  if (letters === 'U' || letters === 'IC') {
    if (words.length === 2) return chips.map((label): Offer => ({ label, type: 'chip' }));
    return pinsLeft(board, ref);
  }
  return words.length <= 3 ? [...nets, ...behind] : [...behind, ...nets];
}

/** The pins of a chip that are on nothing yet, by number with their names. */
function pinsLeft({ parts }: Board, ref: string): Offer[] {
  const part = parts.find((one) => nameKey(one.ref) === nameKey(ref));
  if (part?.kind !== 'chip') return [];
  return part.model.pins.flatMap(({ name, role }, i) =>
    isUnsaid(part.pins[i]!)
      ? [{ label: `${i + 1}=`, detail: `${name}, ${role}`, type: 'pin' as const }]
      : [],
  );
}
