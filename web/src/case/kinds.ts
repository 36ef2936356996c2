import type { EntryBody } from './entry';

type Kind = EntryBody['kind'];

/**
 * What every kind of entry is called, and whether it can be taken back. Exhaustive by type: a kind
 * without its line does not compile.
 * free: at any time, because nothing rests on it but belief. guarded: where nothing was built on it
 * since (`rules.ts` says when). never: it is undone by an entry of another kind.
 */
interface KindOfEntry {
  readonly words: string;
  readonly takeBack: 'free' | 'guarded' | 'never';
}

export const KINDS: Readonly<Record<Kind, KindOfEntry>> = {
  symptom: { words: 'symptom', takeBack: 'free' },
  finding: { words: 'finding', takeBack: 'free' },
  reading: { words: 'reading', takeBack: 'free' },
  retract: { words: 'taking back', takeBack: 'never' },
  condemn: { words: 'verdict', takeBack: 'never' },
  acquit: { words: 'verdict taken back', takeBack: 'never' },
  removed: { words: 'line of the ledger: off', takeBack: 'guarded' },
  fitted: { words: 'line of the ledger: on', takeBack: 'guarded' },
  leftOut: { words: 'line of the ledger: left out', takeBack: 'guarded' },
  answer: { words: 'proof step', takeBack: 'never' },
  close: { words: 'closing', takeBack: 'never' },
  reopen: { words: 'opening again', takeBack: 'never' },
  start: { words: 'start', takeBack: 'free' },
  code: { words: 'code', takeBack: 'free' },
  pattern: { words: 'pattern', takeBack: 'free' },
  trial: { words: 'trial', takeBack: 'free' },
  check: { words: 'check', takeBack: 'free' },
  acknowledge: { words: 'hazard acknowledged', takeBack: 'free' },
  residual: { words: 'volts left on a charge', takeBack: 'free' },
  step: { words: 'opening step', takeBack: 'guarded' },
  back: { words: 'piece put back', takeBack: 'free' },
  seen: { words: 'thing seen', takeBack: 'free' },
  aid: { words: 'first aid', takeBack: 'free' },
  picture: { words: 'picture', takeBack: 'guarded' },
  pin: { words: 'note on a picture', takeBack: 'free' },
  timer: { words: 'timer', takeBack: 'free' },
  daylight: { words: 'hours of daylight', takeBack: 'free' },
  timerDone: { words: 'timer done', takeBack: 'free' },
  powerAnyway: { words: 'power on purpose', takeBack: 'free' },
  decision: { words: 'decision', takeBack: 'free' },
  pause: { words: 'leaving off', takeBack: 'free' },
};
