import type { ProofStep } from '@hanzai/core/prove';
import type { BoardIndex } from '@hanzai/core/board';
import { formatQuantity } from '@hanzai/core/quantity';
import type { ReadingValue } from '@hanzai/core/instrument';
import { inWords, type Expectation } from './expectation';
import { writtenPoints } from './written-points';
import { KIND_WORDS, pointsText, setupWords, valueText } from './wording';

/** A step of a proof as it stands in a table, on screen and on paper. */
export interface ProofWords {
  readonly what: string;
  /** How it is measured; empty for a question. */
  readonly how: string;
  readonly must: Expectation;
  readonly before: string;
  readonly after: string;
}

const ANSWERS = {
  function: { open: '', pass: 'gone', fail: 'still there' },
  joints: { open: '', pass: 'right', fail: 'not right' },
} as const;

export function proofWords(step: ProofStep, index: BoardIndex | undefined): ProofWords {
  if (step.type === 'ask')
    return {
      what: step.question,
      how: '',
      must: { display: ANSWERS[step.stage].pass, band: '' },
      before: step.stage === 'function' ? 'there' : '',
      after: ANSWERS[step.stage][step.state],
    };
  if (step.type === 'starts')
    return {
      what: 'clean starts in a row, as many as its failures before ask for',
      how: '',
      must: { display: String(step.needed), band: '' },
      before: '',
      after: String(step.clean),
    };
  if (step.type === 'rail') {
    const kind = step.stage === 'shorts' ? 'resistance' : 'voltage';
    const words = (value: ReadingValue | undefined): string =>
      value === undefined ? '' : valueText(kind, value);
    return {
      what: `${step.net} to ground`,
      how: `${KIND_WORDS[kind]}, ${setupWords(step.stage === 'shorts' ? 'off' : 'on')}`,
      must: { display: step.must, band: '' },
      before: words(step.before),
      after: words(step.after),
    };
  }
  if (step.type === 'power') return powerWords(step);
  if (step.type === 'runs')
    return {
      what: `runs${step.closed ? ' with the unit closed' : ''}`,
      how: step.needed > 1 ? 'in a row after the last error' : '',
      must: { display: `${step.needed}`, band: 'without an error' },
      before: '',
      after: String(step.passes),
    };
  const { measurement: m, expected, before, after } = step;
  const { at, to } = writtenPoints(m);
  return {
    what: pointsText(index, at, to),
    how: `${KIND_WORDS[m.kind]}, ${setupWords(m.setup)}`,
    must: inWords(expected),
    before: before === undefined ? '' : valueText(m.kind, before),
    after: after === undefined ? '' : valueText(m.kind, after),
  };
}

/** Where no limit is known none is said to have been kept. */
function powerWords({ supplies, state }: Extract<ProofStep, { type: 'power' }>): ProofWords {
  const limits = supplies.flatMap(({ net, limitAmpere }) =>
    limitAmpere === undefined ? [] : [`${net} below ${formatQuantity(limitAmpere, 'A', 2)}`],
  );
  const kept = limits.length > 0 ? 'below the limit' : 'no short: lamp dim, or a low limit held';
  return {
    what: 'first power, with a limit',
    how: limits.join(', '),
    must: { display: kept, band: '' },
    before: '',
    after: { open: '', pass: limits.length > 0 ? 'below it' : 'it held', fail: 'not good' }[state],
  };
}
