// A second reading of pin-outs that had only one: written by package pin from the published data
// sheets (from memory), without a look at the rows of the library.
import { binary, bus, chip, decade, flop, n } from './describe.mjs';

// Gates in the order of the 4000 series: both inner gates have their output first.
const quad = [1, 2, 5, 6, 8, 9, 12, 13];
const two = (name, gate) =>
  chip(
    name,
    quad,
    [3, 4, 10, 11],
    [
      [3, 1, 2],
      [4, 5, 6],
      [10, 8, 9],
      [11, 12, 13],
    ]
      .map(([y, a, b]) => `assign p${y} = ${gate(`p${a}`, `p${b}`)};`)
      .join(' '),
  );
two('4001', (a, b) => `~(${a}|${b})`);
two('4011', (a, b) => `~(${a}&${b})`);
two('4093', (a, b) => `~(${a}&${b})`);
two('4030', (a, b) => `${a}^${b}`);
two('4070', (a, b) => `${a}^${b}`);
two('4071', (a, b) => `${a}|${b}`);
two('4077', (a, b) => `~(${a}^${b})`);
two('4081', (a, b) => `${a}&${b}`);
for (const name of ['4069', '40106'])
  chip(
    name,
    [1, 3, 5, 9, 11, 13],
    [2, 4, 6, 8, 10, 12],
    'assign {p2,p4,p6,p8,p10,p12} = ~{p1,p3,p5,p9,p11,p13};',
  );
chip(
  '4049',
  [3, 5, 7, 9, 11, 14],
  [2, 4, 6, 10, 12, 15],
  'assign {p2,p4,p6,p10,p12,p15} = ~{p3,p5,p7,p9,p11,p14};',
);
chip(
  '4050',
  [3, 5, 7, 9, 11, 14],
  [2, 4, 6, 10, 12, 15],
  'assign {p2,p4,p6,p10,p12,p15} = {p3,p5,p7,p9,p11,p14};',
);
flop(
  '4013',
  [3, 4, 5, 6, 8, 9, 10, 11],
  [1, 2, 13, 12],
  `reg a, b; always @(posedge p3) if (!p4 & !p6) a = p5; always @(p4 or p6) if (p4) a = 0; else if (p6) a = 1; assign p1 = a|p6; assign p2 = ~a|p4;
  always @(posedge p11) if (!p10 & !p8) b = p9; always @(p10 or p8) if (p10) b = 0; else if (p8) b = 1; assign p13 = b|p8; assign p12 = ~b|p10;`,
  { 4: 1, 6: 0, 10: 1, 8: 0 },
  [3, 11],
);

// Bus and line drivers.
chip(
  '74128',
  [2, 3, 5, 6, 8, 9, 11, 12],
  [1, 4, 10, 13],
  'assign p1=~(p2|p3); assign p4=~(p5|p6); assign p10=~(p8|p9); assign p13=~(p11|p12);',
);
chip(
  '74LS366',
  [1, 15, 2, 4, 6, 10, 12, 14],
  [3, 5, 7, 9, 11, 13],
  "assign {p3,p5,p7,p9,p11,p13} = (p1|p15)?6'bz:~{p2,p4,p6,p10,p12,p14};",
);
for (const [name, inverts] of [
  ['74LS245', ''],
  ['74LS640', '~'],
  ['74LS641', ''],
  ['74LS642', '~'],
  ['74LS645', ''],
])
  chip(
    name,
    [19, ...n(2, 9)],
    n(18, 11),
    `assign ${bus(n(18, 11))} = p19?8'bz:${inverts}${bus(n(2, 9))};`,
  );
for (const [name, inverts] of [
  ['74LS242', '~'],
  ['74LS243', ''],
])
  chip(
    name,
    [1, 3, 4, 5, 6],
    [11, 10, 9, 8],
    `assign {p11,p10,p9,p8} = p1?4'bz:${inverts}{p3,p4,p5,p6};`,
  );
chip(
  '74LS540',
  [1, 19, ...n(2, 9)],
  n(18, 11),
  `assign ${bus(n(18, 11))} = (p1|p19)?8'bz:~${bus(n(2, 9))};`,
);
chip(
  '26LS31',
  [4, 12, 1, 7, 9, 15],
  [2, 3, 6, 5, 10, 11, 14, 13],
  "wire e = p4|~p12; assign {p2,p6,p10,p14} = e?{p1,p7,p9,p15}:4'bz; assign {p3,p5,p11,p13} = e?~{p1,p7,p9,p15}:4'bz;",
);
chip(
  '26LS32',
  [4, 12, 2, 6, 10, 14],
  [3, 5, 11, 13],
  "wire e = p4|~p12; assign {p3,p5,p11,p13} = e?{p2,p6,p10,p14}:4'bz;",
);
chip('75453', [1, 2, 6, 7], [3, 5], 'assign p3 = p1|p2; assign p5 = p6|p7;');
chip('75454', [1, 2, 6, 7], [3, 5], 'assign p3 = ~(p1|p2); assign p5 = ~(p6|p7);');

// Decoders and a comparator.
for (const name of ['7445', '74145'])
  chip(
    name,
    [15, 14, 13, 12],
    [1, 2, 3, 4, 5, 6, 7, 9, 10, 11],
    "wire [15:0] y = ~(16'd1 << {p12,p13,p14,p15}); assign {p11,p10,p9,p7,p6,p5,p4,p3,p2,p1} = y[9:0];",
  );
chip(
  '74HC238',
  n(1, 6),
  [15, 14, 13, 12, 11, 10, 9, 7],
  "assign {p7,p9,p10,p11,p12,p13,p14,p15} = (p6 & ~p4 & ~p5) ? (8'd1 << {p3,p2,p1}) : 8'd0;",
);
chip(
  '74159',
  [18, 19, 23, 22, 21, 20],
  [...n(1, 11), ...n(13, 17)],
  `assign ${bus([...n(17, 13), ...n(11, 1)])} = (p18|p19) ? 16'hffff : ~(16'd1 << {p20,p21,p22,p23});`,
);
chip(
  '74F521',
  [1, ...n(2, 9), ...n(11, 18)],
  [19],
  'assign p19 = p1 | ({p2,p4,p6,p8,p11,p13,p15,p17} != {p3,p5,p7,p9,p12,p14,p16,p18});',
);

// Registers and counters.
const d8 = [3, 4, 7, 8, 13, 14, 17, 18];
const q8 = [2, 5, 6, 9, 12, 15, 16, 19];
flop(
  '74LS533',
  [1, 11, ...d8],
  q8,
  `reg [7:0] q; always @* if (p11) q = ${bus(d8)}; assign ${bus(q8)} = p1?8'bz:~q;`,
  { 11: 1 },
  [11],
);
flop(
  '74LS534',
  [1, 11, ...d8],
  q8,
  `reg [7:0] q; always @(posedge p11) q <= ${bus(d8)}; assign ${bus(q8)} = p1?8'bz:~q;`,
  {},
  [11],
);
flop(
  '74LS573',
  [1, 11, ...n(2, 9)],
  n(19, 12),
  `reg [7:0] q; always @* if (p11) q = ${bus(n(2, 9))}; assign ${bus(n(19, 12))} = p1?8'bz:q;`,
  { 11: 1 },
  [11],
);
flop(
  '74LS378',
  [1, 9, 3, 4, 6, 11, 13, 14],
  [2, 5, 7, 10, 12, 15],
  'reg [5:0] q; always @(posedge p9) if (!p1) q <= {p3,p4,p6,p11,p13,p14}; assign {p2,p5,p7,p10,p12,p15} = q;',
  { 1: 0 },
  [9],
);
flop(
  '74LS375',
  [1, 4, 7, 9, 12, 15],
  [3, 2, 5, 6, 11, 10, 13, 14],
  'reg [3:0] q; always @* if (p4) {q[0],q[1]} = {p1,p7}; always @* if (p12) {q[2],q[3]} = {p9,p15}; assign {p3,p5,p11,p13} = {q[0],q[1],q[2],q[3]}; assign {p2,p6,p10,p14} = ~{q[0],q[1],q[2],q[3]};',
  { 4: 1, 12: 1 },
  [4, 12],
);
flop(
  '74LS95',
  [1, 2, 3, 4, 5, 6, 8, 9],
  [13, 12, 11, 10],
  'reg [3:0] q; wire c = p6 ? p8 : p9; wire #1 mode = p6; always @(negedge c) q <= mode ? {p2,p3,p4,p5} : {p1,q[3:1]}; assign {p13,p12,p11,p10} = q;',
  { 6: 1, 8: 1, 9: 1 },
  [8, 9],
);
flop(
  '74LS113',
  [1, 2, 3, 4, 10, 11, 12, 13],
  [5, 6, 9, 8],
  'reg a, b; always @(negedge p1 or negedge p4) if (!p4) a <= 1; else a <= (p3&~a)|(~p2&a); always @(negedge p13 or negedge p10) if (!p10) b <= 1; else b <= (p11&~b)|(~p12&b); assign {p5,p6,p9,p8} = {a,~a,b,~b};',
  { 4: 0, 10: 0 },
  [1, 13],
);
flop(
  '74LS595',
  [10, 11, 12, 13, 14],
  [15, 1, 2, 3, 4, 5, 6, 7, 9],
  "reg [7:0] s, r; always @(posedge p11 or negedge p10) if (!p10) s <= 0; else s <= {s[6:0],p14}; always @(posedge p12) r <= s; assign {p7,p6,p5,p4,p3,p2,p1,p15} = p13?8'bz:r; assign p9 = s[7];",
  { 10: 0 },
  [11, 12],
);
flop(
  '74LS290',
  [10, 11, 1, 3, 12, 13],
  [9, 5, 4, 8],
  decade({ a: 10, b: 11, zero: [12, 13], nine: [1, 3], out: [9, 5, 4, 8] }),
  { 12: 1, 13: 1, 1: 0, 3: 0 },
  [10, 11],
);
flop(
  '74LS293',
  [10, 11, 12, 13],
  [9, 5, 4, 8],
  binary({ a: 10, b: 11, zero: [12, 13], out: [9, 5, 4, 8] }),
  { 12: 1, 13: 1 },
  [10, 11],
);
