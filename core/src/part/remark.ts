/** What a remark on a replacement is about. Text is for people, the code for programs. */
export type RemarkCode =
  | 'another-kind'
  | 'value'
  | 'tolerance'
  | 'volts'
  | 'kind'
  | 'safety-class'
  | 'esr'
  | 'ripple'
  | 'temperature'
  | 'life'
  | 'size'
  | 'pitch'
  | 'ceramic-bias'
  | 'varactor'
  | 'leakage'
  | 'tantalum-derating'
  | 'watts'
  | 'fusible'
  | 'fuse-current'
  | 'fuse-load'
  | 'fuse-speed'
  | 'fuse-volts'
  | 'fuse-breaking'
  | 'fuse-melting'
  | 'fuse-wire'
  | 'elements'
  | 'joined'
  | 'pins'
  | 'current'
  | 'copper'
  | 'frequency'
  | 'load-capacitance'
  | 'polarity'
  | 'drop'
  | 'gain'
  | 'pin-order'
  | 'measure-first'
  | 'speed'
  | 'drop-out'
  | 'output-capacitor'
  | 'contact'
  | 'ways'
  | 'length'
  | 'section'
  | 'shape'
  | 'shaft'
  | 'function'
  | 'pin-out'
  | 'levels-in'
  | 'levels-out'
  | 'fan-out'
  | 'output-stage'
  | 'hysteresis'
  | 'supply'
  | 'socket'
  | 'not-judged';

/**
 * A reason for or against a replacement. stop: not to be fitted. warn: think twice, or not judged.
 * ok: checked and right.
 */
export interface FitnessRemark {
  readonly level: 'stop' | 'warn' | 'ok';
  readonly code: RemarkCode;
  readonly text: string;
  /** Somebody can be hurt or a house can burn: no reason in a note overrules it. */
  readonly dangerous?: boolean;
}

export const ok = (code: RemarkCode, text: string): FitnessRemark => ({ level: 'ok', code, text });
export const warn = (code: RemarkCode, text: string): FitnessRemark => ({
  level: 'warn',
  code,
  text,
});
export const stop = (code: RemarkCode, text: string): FitnessRemark => ({
  level: 'stop',
  code,
  text,
});
export const danger = (code: RemarkCode, text: string): FitnessRemark => ({
  level: 'stop',
  code,
  text,
  dangerous: true,
});

/**
 * fits: everything that matters was judged and is right. conditions: something is to be thought of.
 * no: not to be fitted.
 */
export type FitVerdict = 'fits' | 'conditions' | 'no';

export function verdictOf(remarks: readonly FitnessRemark[]): FitVerdict {
  if (remarks.some(({ level }) => level === 'stop')) return 'no';
  return remarks.length > 0 && remarks.every(({ level }) => level === 'ok') ? 'fits' : 'conditions';
}
