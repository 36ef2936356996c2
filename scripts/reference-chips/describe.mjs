// How a chip is described: by package pin, in Verilog.

export const n = (from, to) =>
  Array.from({ length: Math.abs(to - from) + 1 }, (_, i) => (to > from ? from + i : from - i));
export const bus = (pins) => `{${pins.map((pin) => `p${pin}`).join(',')}}`;

/**
 * name, input pins, output pins (reg where a body drives them in always blocks), Verilog body;
 * first: levels to begin with; clocks: pins moved most often.
 */
export const chips = [];
export const chip = (name, inputs, outputs, body, more = {}) =>
  chips.push({ name, inputs, outputs, body, first: {}, clocks: [], ...more });
export const flop = (name, inputs, outputs, body, first = {}, clocks = []) =>
  chip(name, inputs, outputs, body, { first, clocks });

/**
 * Bodies of ripple counters of two sections, by package pin. a, b: clocks of the sections; zero,
 * nine: the pair that clears, the pair that sets nine; out: outputs, lowest first.
 */
const sections = ([qa, qb, qc, qd]) => `assign p${qa} = a; assign {p${qd},p${qc},p${qb}} = q;`;
export const decade = ({ a, b, zero, nine, out }) =>
  `reg a; reg [2:0] q; wire z = p${zero[0]}&p${zero[1]}; wire m = p${nine[0]}&p${nine[1]}; always @(z or m) if (m) begin a = 1; q = 4; end else if (z) begin a = 0; q = 0; end
  always @(negedge p${a}) if (!z & !m) a = ~a; always @(negedge p${b}) if (!z & !m) q = q == 4 ? 0 : q + 1; ${sections(out)}`;
export const binary = ({ a, b, zero, out }) =>
  `reg a; reg [2:0] q; wire z = p${zero[0]}&p${zero[1]}; always @(negedge p${a} or posedge z) if (z) a <= 0; else a <= ~a;
  always @(negedge p${b} or posedge z) if (z) q <= 0; else q <= q + 1; ${sections(out)}`;
