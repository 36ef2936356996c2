// How a chip is described: by package pin, in Verilog.

export const n = (from, to) => Array.from({ length: Math.abs(to - from) + 1 }, (_, i) => (to > from ? from + i : from - i));
export const bus = (pins) => `{${pins.map((pin) => `p${pin}`).join(',')}}`;

/** name, input pins, output pins (reg where a body drives them in always blocks), Verilog body; first: levels to begin with; clocks: pins moved most often. */
export const chips = [];
export const chip = (name, inputs, outputs, body, more = {}) => chips.push({ name, inputs, outputs, body, first: {}, clocks: [], ...more });
