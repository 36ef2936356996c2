/** The keys of Trace, as they are shown by `?`. */
export const TRACE_KEYS = [
  [
    'type + Enter',
    'file a reading in shorthand: vm 8.6, f1 beep, r13 220, c6 1.03 esr, q1.b q1.e .62 diode, f1 open',
  ],
  ['value + Enter', 'file it for the proposed points'],
  ['- + Enter', 'passes the proposed reading over: out of reach'],
  ['↑ ↓', 'earlier lines'],
  ['Ctrl+Z', 'take the last reading back (with the line empty)'],
  ['Esc', 'out of the reading line: the keys below are heard outside it'],
  ['I', 'to the reading line'],
  ['Alt+B, or B', 'bench mode: the next measurement full screen'],
  ['/', 'go to a part or net'],
  ['C', 'the chip in view, pin by pin, and away again'],
  ['S', 'the capacitor survey, and away again'],
  ['K', 'guided checks: coil, motor, light barrier, switch, array, inductor'],
  ['W', 'why the first of the line-up rather than the second, and away again'],
  ['N', 'the next of the other readings worth taking'],
  ['Space', 'with a meter on the line: files what it holds, or holds what it shows'],
  ['?', 'these keys'],
] as const;
