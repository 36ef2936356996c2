// Writes core/test/reference/chips/vectors.json: what chips do, from behavioural descriptions by package pin run through Debian's Verilog simulator.
// It shares no code and no function text with the engine. Needs iverilog:  node scripts/reference-chips.mjs
import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const n = (from, to) => Array.from({ length: Math.abs(to - from) + 1 }, (_, i) => (to > from ? from + i : from - i));
const bus = (pins) => `{${pins.map((pin) => `p${pin}`).join(',')}}`;

/** name, input pins, output pins (reg where a body drives them in always blocks), Verilog body; first: levels to begin with; clocks: pins moved most often. */
const chips = [];
const chip = (name, inputs, outputs, body, more = {}) => chips.push({ name, inputs, outputs, body, first: {}, clocks: [], ...more });
const gates = (name, units, operator) =>
  chip(
    name,
    units.flatMap((unit) => unit.slice(0, -1)),
    units.map((unit) => unit.at(-1)),
    units.map((unit) => `assign p${unit.at(-1)} = ${operator(unit.slice(0, -1).map((pin) => `p${pin}`))};`).join('\n'),
  );
const nand = (pins) => `~(${pins.join('&')})`;
const nor = (pins) => `~(${pins.join('|')})`;
const quad = [
  [1, 2, 3],
  [4, 5, 6],
  [9, 10, 8],
  [12, 13, 11],
];
const norQuad = [
  [2, 3, 1],
  [5, 6, 4],
  [8, 9, 10],
  [11, 12, 13],
];
const hex = [
  [1, 2],
  [3, 4],
  [5, 6],
  [9, 8],
  [11, 10],
  [13, 12],
];
const triple = [
  [1, 2, 13, 12],
  [3, 4, 5, 6],
  [9, 10, 11, 8],
];
const dual = [
  [1, 2, 4, 5, 6],
  [9, 10, 12, 13, 8],
];
for (const name of ['7400', '74LS03', '7426', '74LS37', '7438', '74LS132']) gates(name, quad, nand);
for (const name of ['7401', '74LS01']) gates(name, norQuad, nand);
for (const name of ['7402', '74LS28', '74LS33']) gates(name, norQuad, nor);
for (const name of ['7404', '7405', '7406', '7416', '74LS14']) gates(name, hex, ([a]) => `~${a}`);
for (const name of ['7407', '7417']) gates(name, hex, ([a]) => a);
for (const name of ['7408', '74LS09']) gates(name, quad, (pins) => pins.join('&'));
for (const name of ['7410', '74LS12']) gates(name, triple, nand);
for (const name of ['74LS11', '74LS15']) gates(name, triple, (pins) => pins.join('&'));
for (const name of ['7420', '74LS13', '74LS22', '7440', '74S140']) gates(name, dual, nand);
gates('74LS21', dual, (pins) => pins.join('&'));
gates('74LS27', triple, nor);
gates('7430', [[1, 2, 3, 4, 5, 6, 11, 12, 8]], nand);
gates('74LS32', quad, (pins) => pins.join('|'));
for (const name of ['7486', '74LS136']) gates(name, quad, (pins) => pins.join('^'));
gates(
  '74LS266',
  [
    [1, 2, 3],
    [5, 6, 4],
    [8, 9, 10],
    [12, 13, 11],
  ],
  (pins) => `~(${pins.join('^')})`,
);
gates(
  '74LS386',
  [
    [1, 2, 3],
    [5, 6, 4],
    [8, 9, 10],
    [12, 13, 11],
  ],
  (pins) => pins.join('^'),
);
gates('74S133', [[1, 2, 3, 4, 5, 6, 7, 10, 11, 12, 13, 14, 15, 9]], nand);
gates(
  '74S260',
  [
    [1, 2, 3, 12, 13, 5],
    [4, 8, 9, 10, 11, 6],
  ],
  nor,
);
chip('7425', [1, 2, 3, 4, 5, 9, 10, 11, 12, 13], [6, 8], 'assign p6 = ~(p3 & (p1|p2|p4|p5)); assign p8 = ~(p11 & (p9|p10|p12|p13));');
chip('7451', [1, 2, 3, 4, 5, 9, 10, 13], [6, 8], 'assign p8 = ~((p1&p13)|(p9&p10)); assign p6 = ~((p2&p3)|(p4&p5));');
chip('74LS51', [1, 2, 3, 4, 5, 9, 10, 11, 12, 13], [6, 8], 'assign p8 = ~((p1&p12&p13)|(p9&p10&p11)); assign p6 = ~((p2&p3)|(p4&p5));');
chip('7454', [1, 13, 2, 3, 4, 5, 9, 10], [8], 'assign p8 = ~((p1&p13)|(p2&p3)|(p4&p5)|(p9&p10));');
chip('74LS55', [1, 2, 3, 4, 10, 11, 12, 13], [8], 'assign p8 = ~((&{p1,p2,p3,p4})|(&{p10,p11,p12,p13}));');
chip(
  '74LS125',
  [1, 2, 4, 5, 9, 10, 12, 13],
  [3, 6, 8, 11],
  "assign p3 = p1?1'bz:p2; assign p6 = p4?1'bz:p5; assign p8 = p10?1'bz:p9; assign p11 = p13?1'bz:p12;",
);
chip(
  '74LS126',
  [1, 2, 4, 5, 9, 10, 12, 13],
  [3, 6, 8, 11],
  "assign p3 = p1?p2:1'bz; assign p6 = p4?p5:1'bz; assign p8 = p10?p9:1'bz; assign p11 = p13?p12:1'bz;",
);
chip('74LS367', [1, 15, 2, 4, 6, 10, 12, 14], [3, 5, 7, 9, 11, 13], "assign {p3,p5,p7,p9} = p1?4'bz:{p2,p4,p6,p10}; assign {p11,p13} = p15?2'bz:{p12,p14};");
chip('74LS368', [1, 15, 2, 4, 6, 10, 12, 14], [3, 5, 7, 9, 11, 13], "assign {p3,p5,p7,p9} = p1?4'bz:~{p2,p4,p6,p10}; assign {p11,p13} = p15?2'bz:~{p12,p14};");
chip('74LS365', [1, 15, 2, 4, 6, 10, 12, 14], [3, 5, 7, 9, 11, 13], "assign {p3,p5,p7,p9,p11,p13} = (p1|p15)?6'bz:{p2,p4,p6,p10,p12,p14};");

// Arithmetic and decoding.
chip('7483', [10, 8, 3, 1, 11, 7, 4, 16, 13], [9, 6, 2, 15, 14], 'assign {p14,p15,p2,p6,p9} = {p1,p3,p8,p10} + {p16,p4,p7,p11} + p13;');
chip('74LS283', [5, 3, 14, 12, 6, 2, 15, 11, 7], [4, 1, 13, 10, 9], 'assign {p9,p10,p13,p1,p4} = {p12,p14,p3,p5} + {p11,p15,p2,p6} + p7;');
chip(
  '74LS85',
  [10, 12, 13, 15, 9, 11, 14, 1, 2, 3, 4],
  [5, 6, 7],
  `
  wire [3:0] a = {p15,p13,p12,p10}; wire [3:0] b = {p1,p14,p11,p9}; reg g,e,l;
  always @* if (a > b) {g,e,l} = 3'b100; else if (a < b) {g,e,l} = 3'b001;
    else if (p3) {g,e,l} = 3'b010; else case ({p4,p2}) 2'b10: {g,e,l} = 3'b100; 2'b01: {g,e,l} = 3'b001; 2'b11: {g,e,l} = 3'b000; default: {g,e,l} = 3'b101; endcase
  assign p5 = g; assign p6 = e; assign p7 = l;`,
);
// Published function table of the arithmetic unit for active-high data, M = 0 by arithmetic and M = 1 by function; carry in and out act low.
chip(
  '74S181',
  [2, 23, 21, 19, 1, 22, 20, 18, 6, 5, 4, 3, 8, 7],
  [9, 10, 11, 13, 16, 14],
  `
  wire [3:0] a = {p19,p21,p23,p2}; wire [3:0] b = {p18,p20,p22,p1}; wire [3:0] s = {p3,p4,p5,p6}; wire ci = ~p7; reg [3:0] logical; reg [4:0] sum;
  always @* begin
    case (s) 0: logical=~a; 1: logical=~(a|b); 2: logical=~a&b; 3: logical=0; 4: logical=~(a&b); 5: logical=~b; 6: logical=a^b; 7: logical=a&~b;
      8: logical=~a|b; 9: logical=~(a^b); 10: logical=b; 11: logical=a&b; 12: logical=4'hf; 13: logical=a|~b; 14: logical=a|b; 15: logical=a; endcase
    case (s) 0: sum=a+ci; 1: sum=(a|b)+ci; 2: sum={1'b0,a|~b}+ci; 3: sum=5'd15+ci; 4: sum=a+(a&~b)+ci; 5: sum=(a|b)+(a&~b)+ci; 6: sum={1'b0,a}+{1'b0,~b}+ci; 7: sum={1'b0,a&~b}+5'd15+ci;
      8: sum=a+(a&b)+ci; 9: sum=a+b+ci; 10: sum={1'b0,a|~b}+(a&b)+ci; 11: sum={1'b0,a&b}+5'd15+ci; 12: sum=a+a+ci; 13: sum=(a|b)+a+ci; 14: sum={1'b0,a|~b}+a+ci; 15: sum={1'b0,a}+5'd15+ci; endcase
  end
  wire [3:0] f = p8 ? logical : sum[3:0]; assign {p13,p11,p10,p9} = f; assign p16 = p8 ? 1'bx : ~sum[4]; assign p14 = &f;`,
);
chip(
  '74S182',
  [1, 2, 3, 4, 5, 6, 13, 14, 15],
  [7, 9, 10, 11, 12],
  `
  wire [3:0] g = ~{p5,p14,p1,p3}; wire [3:0] p = ~{p6,p15,p2,p4}; wire x = g[0]|(p[0]&p13); wire y = g[1]|(p[1]&x); wire z = g[2]|(p[2]&y);
  assign p12 = x; assign p11 = y; assign p9 = z; assign p7 = ~&p; assign p10 = ~(g[3]|(p[3]&(g[2]|(p[2]&(g[1]|(p[1]&g[0]))))));`,
);
chip(
  '7442',
  [15, 14, 13, 12],
  [1, 2, 3, 4, 5, 6, 7, 9, 10, 11],
  "wire [15:0] y = ~(16'd1 << {p12,p13,p14,p15}); assign {p11,p10,p9,p7,p6,p5,p4,p3,p2,p1} = y[9:0];",
);
chip(
  '74LS138',
  [1, 2, 3, 4, 5, 6],
  [15, 14, 13, 12, 11, 10, 9, 7],
  "assign {p7,p9,p10,p11,p12,p13,p14,p15} = (p6 & ~p4 & ~p5) ? ~(8'd1 << {p3,p2,p1}) : 8'hff;",
);
chip(
  '74LS139',
  [1, 2, 3, 13, 14, 15],
  [4, 5, 6, 7, 12, 11, 10, 9],
  "assign {p7,p6,p5,p4} = p1?4'hf:~(4'd1<<{p3,p2}); assign {p9,p10,p11,p12} = p15?4'hf:~(4'd1<<{p13,p14});",
);
chip(
  '74LS147',
  [11, 12, 13, 1, 2, 3, 4, 5, 10],
  [9, 7, 6, 14],
  `
  integer i; reg [3:0] c; wire [9:1] l = {p10,p5,p4,p3,p2,p1,p13,p12,p11}; always @* begin c = 0; for (i=1;i<10;i=i+1) if (!l[i]) c = i; end assign {p14,p6,p7,p9} = ~c;`,
);
chip(
  '74LS148',
  [10, 11, 12, 13, 1, 2, 3, 4, 5],
  [9, 7, 6, 14, 15],
  `
  integer i; reg [2:0] c; reg any; wire [7:0] l = {p4,p3,p2,p1,p13,p12,p11,p10}; always @* begin c = 0; any = 0; for (i=0;i<8;i=i+1) if (!l[i]) begin c = i; any = 1; end end
  assign {p6,p7,p9} = p5 ? 3'b111 : any ? ~c : 3'b111; assign p14 = p5 | ~any; assign p15 = p5 | any;`,
);
chip(
  '74150',
  [8, 7, 6, 5, 4, 3, 2, 1, 23, 22, 21, 20, 19, 18, 17, 16, 15, 14, 13, 11, 9],
  [10],
  `wire [15:0] e = ${bus([16, 17, 18, 19, 20, 21, 22, 23, 1, 2, 3, 4, 5, 6, 7, 8])}; assign p10 = p9 | ~e[{p11,p13,p14,p15}];`,
);
for (const [name, off] of [
  ['74LS151', "1'b0,1'b1"],
  ['74LS251', "1'bz,1'bz"],
])
  chip(
    name,
    [4, 3, 2, 1, 15, 14, 13, 12, 11, 10, 9, 7],
    [5, 6],
    `wire [7:0] d = ${bus([12, 13, 14, 15, 1, 2, 3, 4])}; wire y = d[{p9,p10,p11}]; assign {p5,p6} = p7 ? {${off}} : {y,~y};`,
  );
for (const [name, off] of [
  ['74LS153', "1'b0"],
  ['74LS253', "1'bz"],
])
  chip(
    name,
    [1, 2, 3, 4, 5, 6, 10, 11, 12, 13, 14, 15],
    [7, 9],
    `wire [3:0] a = {p3,p4,p5,p6}; wire [3:0] b = {p13,p12,p11,p10}; assign p7 = p1?${off}:a[{p2,p14}]; assign p9 = p15?${off}:b[{p2,p14}];`,
  );
chip(
  '74154',
  [18, 19, 20, 21, 22, 23],
  [...n(1, 11), ...n(13, 17)],
  `assign ${bus([17, 16, 15, 14, 13, 11, 10, 9, 8, 7, 6, 5, 4, 3, 2, 1])} = (p18|p19) ? 16'hffff : ~(16'd1 << {p20,p21,p22,p23});`,
);
for (const name of ['74LS155', '74LS156'])
  chip(
    name,
    [1, 2, 3, 13, 14, 15],
    [4, 5, 6, 7, 9, 10, 11, 12],
    "assign {p4,p5,p6,p7} = (p1&~p2)?~(4'd1<<{p3,p13}):4'hf; assign {p12,p11,p10,p9} = (~p15&~p14)?~(4'd1<<{p3,p13}):4'hf;",
  );
const select = [1, 15, 2, 3, 5, 6, 10, 11, 13, 14];
for (const [name, expression] of [
  ['74LS157', "p15?4'd0:m"],
  ['74LS158', "p15?4'hf:~m"],
  ['74LS257', "p15?4'bz:m"],
  ['74LS258', "p15?4'bz:~m"],
])
  chip(name, select, [4, 7, 9, 12], `wire [3:0] m = p1?{p3,p6,p10,p13}:{p2,p5,p11,p14}; assign {p4,p7,p9,p12} = ${expression};`);
chip('74180', [1, 2, 3, 4, 8, 9, 10, 11, 12, 13], [5, 6], 'wire o = ^{p1,p2,p8,p9,p10,p11,p12,p13}; assign p5 = ~(o?p3:p4); assign p6 = ~(o?p4:p3);');
chip('74LS280', [1, 2, 4, 8, 9, 10, 11, 12, 13], [5, 6], 'wire o = ^{p1,p2,p4,p8,p9,p10,p11,p12,p13}; assign p6 = o; assign p5 = ~o;');
chip('74LS688', [1, ...n(2, 9), ...n(11, 18)], [19], 'assign p19 = p1 | ({p2,p4,p6,p8,p11,p13,p15,p17} != {p3,p5,p7,p9,p12,p14,p16,p18});');
chip(
  '7447',
  [7, 1, 2, 6, 3, 4, 5],
  [13, 12, 11, 10, 9, 15, 14],
  `
  reg [6:0] s; always @* case ({p6,p2,p1,p7}) 0: s=7'b1111110; 1: s=7'b0110000; 2: s=7'b1101101; 3: s=7'b1111001; 4: s=7'b0110011; 5: s=7'b1011011; 6: s=7'b0011111; 7: s=7'b1110000;
    8: s=7'b1111111; 9: s=7'b1110011; 10: s=7'b0001101; 11: s=7'b0011001; 12: s=7'b0100011; 13: s=7'b1001011; 14: s=7'b0001111; 15: s=7'b0000000; endcase
  assign {p13,p12,p11,p10,p9,p15,p14} = !p3 ? (p4 ? 7'd0 : 7'd0) : (!p4 || (!p5 && {p6,p2,p1,p7} == 0)) ? 7'h7f : ~s;`,
);
const octal = [2, 4, 6, 8, 11, 13, 15, 17];
chip(
  '74LS240',
  [1, 19, ...octal],
  [18, 16, 14, 12, 9, 7, 5, 3],
  "assign {p18,p16,p14,p12} = p1?4'bz:~{p2,p4,p6,p8}; assign {p9,p7,p5,p3} = p19?4'bz:~{p11,p13,p15,p17};",
);
chip(
  '74LS241',
  [1, 19, ...octal],
  [18, 16, 14, 12, 9, 7, 5, 3],
  "assign {p18,p16,p14,p12} = p1?4'bz:{p2,p4,p6,p8}; assign {p9,p7,p5,p3} = p19?{p11,p13,p15,p17}:4'bz;",
);
chip(
  '74LS244',
  [1, 19, ...octal],
  [18, 16, 14, 12, 9, 7, 5, 3],
  "assign {p18,p16,p14,p12} = p1?4'bz:{p2,p4,p6,p8}; assign {p9,p7,p5,p3} = p19?4'bz:{p11,p13,p15,p17};",
);
chip('74LS541', [1, 19, ...n(2, 9)], n(18, 11), `assign ${bus(n(18, 11))} = (p1|p19)?8'bz:${bus(n(2, 9))};`);
chip('75451', [1, 2, 6, 7], [3, 5], 'assign p3 = p1&p2; assign p5 = p6&p7;');
chip('75452', [1, 2, 6, 7], [3, 5], 'assign p3 = ~(p1&p2); assign p5 = ~(p6&p7);');

// Flip-flops, counters, registers: one input at a time is moved, from a cleared state.
const flop = (name, inputs, outputs, body, first, clocks) => chip(name, inputs, outputs, body, { first, clocks });
// Preset and clear act by level, so that releasing one of them while the other still stands is right.
const ends = (q, clr, pre) =>
  `always @(${[clr, pre]
    .filter(Boolean)
    .map((pin) => `p${pin}`)
    .join(' or ')}) ${clr ? `if (!p${clr}) r${q} = 0; else ` : ''}${pre ? `if (!p${pre}) r${q} = 1;` : ';'}`;
const quiet = (clr, pre) =>
  [clr, pre]
    .filter(Boolean)
    .map((pin) => `p${pin}`)
    .join(' & ') || '1';
const dType = (ck, clr, pre, d, q, qn) => `reg r${q}; ${ends(q, clr, pre)} always @(posedge p${ck}) if (${quiet(clr, pre)}) r${q} = p${d};
  assign p${q} = r${q} | ~p${pre}; assign p${qn} = ~r${q} | ~p${clr};`;
const jk = (edge, ck, clr, pre, j, k, q, qn) => `reg r${q}; ${ends(q, clr, pre)}
  always @(${edge} p${ck}) if (${quiet(clr, pre)}) case ({${j},${k}}) 2'b10: r${q} = 1; 2'b01: r${q} = 0; 2'b11: r${q} = ~r${q}; endcase
  assign p${q} = r${q}${pre ? ` | ~p${pre}` : ''}; assign p${qn} = ~r${q}${clr ? ` | ~p${clr}` : ''};`;
flop('74LS74', [1, 2, 3, 4, 10, 11, 12, 13], [5, 6, 9, 8], dType(3, 1, 4, 2, 5, 6) + dType(11, 13, 10, 12, 9, 8), { 1: 0, 4: 1, 13: 0, 10: 1 }, [3, 11]);
flop(
  '7473',
  [1, 2, 3, 14, 5, 6, 7, 10],
  [12, 13, 9, 8],
  jk('negedge', 1, 2, 0, 'p14', 'p3', 12, 13).replace(' | ~p2', '') + jk('negedge', 5, 6, 0, 'p7', 'p10', 9, 8).replace(' | ~p6', ''),
  { 2: 0, 6: 0 },
  [1, 5],
);
flop(
  '74LS76',
  [1, 2, 3, 4, 16, 6, 7, 8, 9, 12],
  [15, 14, 11, 10],
  jk('negedge', 1, 3, 2, 'p4', 'p16', 15, 14) + jk('negedge', 6, 8, 7, 'p9', 'p12', 11, 10),
  { 2: 1, 3: 0, 7: 1, 8: 0 },
  [1, 6],
);
flop(
  '74LS107',
  [1, 4, 8, 11, 9, 10, 12, 13],
  [3, 2, 5, 6],
  jk('negedge', 12, 13, 0, 'p1', 'p4', 3, 2).replace(' | ~p13', '') + jk('negedge', 9, 10, 0, 'p8', 'p11', 5, 6).replace(' | ~p10', ''),
  { 13: 0, 10: 0 },
  [12, 9],
);
flop(
  '74LS109',
  [1, 2, 3, 4, 5, 11, 12, 13, 14, 15],
  [6, 7, 10, 9],
  jk('posedge', 4, 1, 5, 'p2', '~p3', 6, 7) + jk('posedge', 12, 15, 11, 'p14', '~p13', 10, 9),
  { 1: 0, 5: 1, 15: 0, 11: 1 },
  [4, 12],
);
flop(
  '74LS112',
  [1, 2, 3, 4, 15, 10, 11, 12, 13, 14],
  [5, 6, 9, 7],
  jk('negedge', 1, 15, 4, 'p3', 'p2', 5, 6) + jk('negedge', 13, 14, 10, 'p11', 'p12', 9, 7),
  { 15: 0, 4: 1, 14: 0, 10: 1 },
  [1, 13],
);
flop(
  '74LS75',
  [2, 3, 6, 7, 13, 4],
  [16, 1, 15, 14, 10, 11, 9, 8],
  'reg a,b,c,d; always @* if (p13) {a,b} = {p2,p3}; always @* if (p4) {c,d} = {p6,p7}; assign {p16,p1,p15,p14,p10,p11,p9,p8} = {a,~a,b,~b,c,~c,d,~d};',
  { 13: 1, 4: 1 },
  [13, 4],
);
flop(
  '74LS279',
  [1, 2, 3, 5, 6, 10, 11, 12, 14, 15],
  [4, 7, 9, 13],
  `reg a,b,c,d; always @* if (!(p2&p3)) a = 1; else if (!p1) a = 0; always @* if (!p6) b = 1; else if (!p5) b = 0;
  always @* if (!(p11&p12)) c = 1; else if (!p10) c = 0; always @* if (!p15) d = 1; else if (!p14) d = 0; assign {p4,p7,p9,p13} = {a,b,c,d};`,
  { 1: 0, 5: 0, 10: 0, 14: 0, 2: 1, 3: 1, 6: 1, 11: 1, 12: 1, 15: 1 },
  [],
);
const out160 = 'assign {p11,p12,p13,p14} = q;';
for (const [name, most, direct] of [
  ['74LS160', 9, true],
  ['74LS161', 15, true],
  ['74LS162', 9, false],
  ['74LS163', 15, false],
]) {
  const body = `if (!p9) q <= {p6,p5,p4,p3}; else if (p7 & p10) q <= ${most === 9 ? 'q == 9 ? 0 : q == 11 ? 4 : q == 13 ? 4 : q == 15 ? 8 : q + 1' : 'q + 1'};`;
  flop(
    name,
    [1, 2, 3, 4, 5, 6, 7, 9, 10],
    [14, 13, 12, 11, 15],
    `reg [3:0] q; always @(posedge p2${direct ? ' or negedge p1' : ''}) if (!p1) q <= 0; else ${body} ${out160} assign p15 = p10 & ${most === 9 ? '(q[0] & ~q[1] & ~q[2] & q[3])' : '(&q)'};`,
    { 1: 0, 2: 0, 9: 1 },
    [2],
  );
  chips.at(-1).decade = most === 9 ? { load: 9, data: [6, 5, 4] } : undefined;
}
flop(
  '74LS90',
  [14, 1, 2, 3, 6, 7],
  [12, 9, 8, 11],
  `reg a; reg [2:0] q; wire z = p2&p3; wire m = p6&p7; always @(z or m) if (m) begin a = 1; q = 4; end else if (z) begin a = 0; q = 0; end
  always @(negedge p14) if (!z & !m) a = ~a; always @(negedge p1) if (!z & !m) q = q == 4 ? 0 : q + 1; assign p12 = a; assign {p11,p8,p9} = q;`,
  { 2: 1, 3: 1, 6: 0, 7: 0 },
  [14, 1],
);
flop(
  '74LS92',
  [14, 1, 6, 7],
  [12, 11, 9, 8],
  `reg a; reg [2:0] q; wire z = p6&p7; always @(negedge p14 or posedge z) if (z) a <= 0; else a <= ~a;
  always @(negedge p1 or posedge z) if (z) q <= 0; else q <= q == 0 ? 1 : q == 1 ? 2 : q == 2 ? 4 : q == 4 ? 5 : q == 5 ? 6 : 0; assign p12 = a; assign {p8,p9,p11} = q;`,
  { 6: 1, 7: 1 },
  [14, 1],
);
flop(
  '74LS93',
  [14, 1, 2, 3],
  [12, 9, 8, 11],
  `reg a; reg [2:0] q; wire z = p2&p3; always @(negedge p14 or posedge z) if (z) a <= 0; else a <= ~a; always @(negedge p1 or posedge z) if (z) q <= 0; else q <= q + 1;
  assign p12 = a; assign {p11,p8,p9} = q;`,
  { 2: 1, 3: 1 },
  [14, 1],
);
flop(
  '74LS393',
  [1, 2, 12, 13],
  [3, 4, 5, 6, 11, 10, 9, 8],
  'reg [3:0] q,r; always @(negedge p1 or posedge p2) if (p2) q <= 0; else q <= q+1; always @(negedge p13 or posedge p12) if (p12) r <= 0; else r <= r+1; assign {p6,p5,p4,p3} = q; assign {p8,p9,p10,p11} = r;',
  { 2: 1, 12: 1 },
  [1, 13],
);
flop(
  '74LS390',
  [1, 2, 4, 12, 14, 15],
  [3, 5, 6, 7, 13, 11, 10, 9],
  `reg a,b; reg [2:0] q,r; always @(negedge p1 or posedge p2) if (p2) a <= 0; else a <= ~a; always @(negedge p4 or posedge p2) if (p2) q <= 0; else q <= q==4?0:q+1;
  always @(negedge p15 or posedge p14) if (p14) b <= 0; else b <= ~b; always @(negedge p12 or posedge p14) if (p14) r <= 0; else r <= r==4?0:r+1; assign {p7,p6,p5,p3} = {q,a}; assign {p9,p10,p11,p13} = {r,b};`,
  { 2: 1, 14: 1 },
  [1, 4, 12, 15],
);
flop(
  '74LS164',
  [1, 2, 8, 9],
  [3, 4, 5, 6, 10, 11, 12, 13],
  `reg [7:0] q; always @(posedge p8 or negedge p9) if (!p9) q <= 0; else q <= {q[6:0], p1&p2}; assign ${bus([13, 12, 11, 10, 6, 5, 4, 3])} = q;`,
  { 9: 0 },
  [8],
);
flop(
  '74LS165',
  [1, 2, 15, 10, 11, 12, 13, 14, 3, 4, 5, 6],
  [9, 7],
  `reg [7:0] q; wire ck = p2|p15; wire [7:0] d = ${bus([6, 5, 4, 3, 14, 13, 12, 11])}; always @(posedge ck or negedge p1 or d) if (!p1) q <= d; else if (ck && !was) q <= {q[6:0],p10};
  reg was; initial was = 0; always @(ck) was <= ck; assign p9 = q[7]; assign p7 = ~q[7];`,
  { 1: 0, 2: 0, 15: 0 },
  [2],
);
flop(
  '74LS166',
  [1, 2, 3, 4, 5, 6, 7, 9, 10, 11, 12, 14, 15],
  [13],
  `reg [7:0] q; wire ck = p7|p6; always @(posedge ck or negedge p9) if (!p9) q <= 0; else q <= p15 ? {q[6:0],p1} : ${bus([14, 12, 11, 10, 5, 4, 3, 2])}; assign p13 = q[7];`,
  { 9: 0 },
  [7],
);
flop(
  '74LS169',
  [1, 2, 3, 4, 5, 6, 7, 9, 10],
  [14, 13, 12, 11, 15],
  `reg [3:0] q; always @(posedge p2) if (!p9) q <= {p6,p5,p4,p3}; else if (!p7 & !p10) q <= p1 ? q+1 : q-1; ${out160} assign p15 = ~(~p10 & (p1 ? &q : ~|q));`,
  { 9: 0 },
  [2],
);
flop(
  '74LS173',
  [1, 2, 7, 9, 10, 11, 12, 13, 14, 15],
  [3, 4, 5, 6],
  "reg [3:0] q; always @(posedge p7 or posedge p15) if (p15) q <= 0; else if (!(p9|p10)) q <= {p11,p12,p13,p14}; assign {p6,p5,p4,p3} = (p1|p2)?4'bz:q;",
  { 15: 1 },
  [7],
);
flop(
  '74LS174',
  [1, 3, 4, 6, 9, 11, 13, 14],
  [2, 5, 7, 10, 12, 15],
  'reg [5:0] q; always @(posedge p9 or negedge p1) if (!p1) q <= 0; else q <= {p14,p13,p11,p6,p4,p3}; assign {p15,p12,p10,p7,p5,p2} = q;',
  { 1: 0 },
  [9],
);
flop(
  '74LS175',
  [1, 4, 5, 9, 12, 13],
  [2, 3, 7, 6, 10, 11, 15, 14],
  'reg [3:0] q; always @(posedge p9 or negedge p1) if (!p1) q <= 0; else q <= {p13,p12,p5,p4}; assign {p15,p10,p7,p2} = q; assign {p14,p11,p6,p3} = ~q;',
  { 1: 0 },
  [9],
);
for (const [name, most] of [
  ['74LS190', 9],
  ['74LS191', 15],
]) {
  flop(
    name,
    [4, 5, 11, 14, 15, 1, 10, 9],
    [3, 2, 6, 7, 12, 13],
    `reg [3:0] q; wire [3:0] d = {p9,p10,p1,p15}; reg was; initial was = 1; always @(posedge p14 or negedge p11 or d) if (!p11) q <= d; else if (p14 && !was) if (!p4) q <= p5 ? (q == 0 ? ${most} : q-1) : (q == ${most} ? 0 : q+1);
  always @(p14) was <= p14; assign {p7,p6,p2,p3} = q; wire m = p5 ? q == 0 : q == ${most}; assign p12 = m; assign p13 = ~(m & ~p4 & ~p14);`,
    { 11: 0, 14: 1 },
    [14],
  );
  chips.at(-1).decade = most === 9 ? { load: 11, data: [9, 10, 1] } : undefined;
}
for (const [name, most] of [
  ['74LS192', 9],
  ['74LS193', 15],
]) {
  flop(
    name,
    [4, 5, 11, 14, 15, 1, 10, 9],
    [3, 2, 6, 7, 12, 13],
    `reg [3:0] q; always @(p14 or p11 or p15 or p1 or p10 or p9) if (p14) q = 0; else if (!p11) q = {p9,p10,p1,p15};
  always @(posedge p5) if (p4 & !p14 & p11) q = q == ${most} ? 0 : q+1; always @(posedge p4) if (p5 & !p14 & p11) q = q == 0 ? ${most} : q-1;
  assign {p7,p6,p2,p3} = q; assign p12 = ~(~p5 & q == ${most}); assign p13 = ~(~p4 & q == 0);`,
    { 14: 1, 4: 1, 5: 1, 11: 1 },
    [4, 5],
  );
  chips.at(-1).decade = most === 9 ? { load: 11, data: [9, 10, 1] } : undefined;
}
flop(
  '74LS194',
  [1, 2, 3, 4, 5, 6, 7, 9, 10, 11],
  [15, 14, 13, 12],
  'reg [3:0] q; always @(posedge p11 or negedge p1) if (!p1) q <= 0; else case ({p10,p9}) 3: q <= {p6,p5,p4,p3}; 1: q <= {q[2:0],p2}; 2: q <= {p7,q[3:1]}; endcase assign {p12,p13,p14,p15} = q;',
  { 1: 0 },
  [11],
);
flop(
  '74LS195',
  [1, 2, 3, 4, 5, 6, 7, 9, 10],
  [15, 14, 13, 12, 11],
  'reg [3:0] q; always @(posedge p10 or negedge p1) if (!p1) q <= 0; else if (!p9) q <= {p7,p6,p5,p4}; else q <= {q[2:0], (p2&~q[0])|(p3&q[0])}; assign {p12,p13,p14,p15} = q; assign p11 = ~q[3];',
  { 1: 0 },
  [10],
);
const d8 = [3, 4, 7, 8, 13, 14, 17, 18];
const q8 = [2, 5, 6, 9, 12, 15, 16, 19];
flop(
  '74LS273',
  [1, 11, ...d8],
  q8,
  `reg [7:0] q; always @(posedge p11 or negedge p1) if (!p1) q <= 0; else q <= ${bus(d8)}; assign ${bus(q8)} = q;`,
  { 1: 0 },
  [11],
);
flop('74LS373', [1, 11, ...d8], q8, `reg [7:0] q; always @* if (p11) q = ${bus(d8)}; assign ${bus(q8)} = p1?8'bz:q;`, { 11: 1 }, [11]);
flop('74LS374', [1, 11, ...d8], q8, `reg [7:0] q; always @(posedge p11) q <= ${bus(d8)}; assign ${bus(q8)} = p1?8'bz:q;`, {}, [11]);
flop('74LS377', [1, 11, ...d8], q8, `reg [7:0] q; always @(posedge p11) if (!p1) q <= ${bus(d8)}; assign ${bus(q8)} = q;`, { 1: 0 }, [11]);
flop('74LS574', [1, 11, ...n(2, 9)], n(19, 12), `reg [7:0] q; always @(posedge p11) q <= ${bus(n(2, 9))}; assign ${bus(n(19, 12))} = p1?8'bz:q;`, {}, [11]);
flop(
  '74LS259',
  [1, 2, 3, 13, 14, 15],
  [4, 5, 6, 7, 9, 10, 11, 12],
  `reg [7:0] q; wire [2:0] a = {p3,p2,p1}; always @* if (!p15) begin q = 0; if (!p14) q[a] = p13; end else if (!p14) q[a] = p13; assign {p12,p11,p10,p9,p7,p6,p5,p4} = q;`,
  { 15: 0, 14: 1 },
  [14],
);
flop(
  '74HC595',
  [10, 11, 12, 13, 14],
  [15, 1, 2, 3, 4, 5, 6, 7, 9],
  `reg [7:0] s,r; always @(posedge p11 or negedge p10) if (!p10) s <= 0; else s <= {s[6:0],p14}; always @(posedge p12) r <= s; assign ${bus([7, 6, 5, 4, 3, 2, 1, 15])} = p13?8'bz:r; assign p9 = s[7];`,
  { 10: 0 },
  [11, 12],
);
flop(
  '4017',
  [13, 14, 15],
  [3, 2, 4, 7, 10, 1, 5, 6, 9, 11, 12],
  `reg [3:0] c; wire ck = p14 & ~p13; always @(posedge ck or posedge p15) if (p15) c <= 0; else c <= c == 9 ? 0 : c+1; wire [9:0] q = 10'd1 << c; assign ${bus([11, 9, 6, 5, 1, 10, 7, 4, 2, 3])} = q; assign p12 = c < 5;`,
  { 15: 1 },
  [14],
);

/** A small generator with a fixed seed, so that the file repeats. Source: the "minimal standard" generator, Park & Miller, CACM 31, 1988. */
let seed = 20260101;
const random = (below) => (seed = (seed * 48271) % 2147483647) % below;

function stimuli({ inputs, first, clocks, decade }) {
  const sequential = clocks.length > 0 || Object.keys(first).length > 0;
  if (!sequential && inputs.length <= 8) return Array.from({ length: 2 ** inputs.length }, (_, v) => inputs.map((_, i) => (v >> i) & 1));
  if (!sequential) return Array.from({ length: 300 }, () => inputs.map(() => random(2)));
  const now = inputs.map((pin) => first[pin] ?? (clocks.includes(pin) ? 0 : random(2)));
  const steps = [[...now]];
  for (let k = 0; k < 260; k += 1) {
    const at = clocks.length > 0 && random(10) < 6 ? inputs.indexOf(clocks[random(clocks.length)]) : random(inputs.length);
    now[at] ^= 1;
    // A decade counter is not loaded with more than nine: what it does from there is not in every table.
    if (decade && now[inputs.indexOf(decade.data[0])]) for (const pin of decade.data.slice(1)) now[inputs.indexOf(pin)] = 0;
    steps.push([...now]);
  }
  return steps;
}

function simulate(folder, one) {
  const steps = stimuli(one);
  const all = [...one.inputs.map((pin) => `input p${pin}`), ...one.outputs.map((pin) => `output p${pin}`)].join(', ');
  const apply = steps
    .map((levels, k) => {
      const lines = levels.map((level, i) => (k === 0 || steps[k - 1][i] !== level ? `p${one.inputs[i]} = ${level};` : '')).join(' ');
      return `${lines} #10 $display("%b", ${bus(one.outputs)});`;
    })
    .join('\n');
  const file = join(folder, 'chip.v');
  writeFileSync(
    file,
    `module chip(${all});\n${one.body}\nendmodule\nmodule bench;\n${one.inputs.map((pin) => `reg p${pin};`).join(' ')}\n${one.outputs.map((pin) => `wire p${pin};`).join(' ')}
chip c(${[...one.inputs, ...one.outputs].map((pin) => `.p${pin}(p${pin})`).join(', ')});\ninitial begin\n${apply}\n$finish;\nend\nendmodule\n`,
  );
  execFileSync('iverilog', ['-g2005-sv', '-o', join(folder, 'chip.out'), file]);
  const lines = execFileSync('vvp', ['-n', join(folder, 'chip.out')], { encoding: 'utf8' })
    .trim()
    .split('\n');
  return steps.map((levels, k) => `${levels.join('')} ${lines[k]}`);
}

const folder = mkdtempSync(join(tmpdir(), 'chips-'));
const version = /version ([\d.]+)/.exec(execFileSync('iverilog', ['-V'], { encoding: 'utf8' }))[1];
const result = { simulator: `Icarus Verilog ${version} (Debian package iverilog)`, made: 'scripts/reference-chips.mjs', chips: {} };
for (const one of chips) result.chips[one.name] = { inputs: one.inputs, outputs: one.outputs, vectors: simulate(folder, one).join('\n') };
rmSync(folder, { recursive: true });
mkdirSync(new URL('../core/test/reference/chips/', import.meta.url), { recursive: true });
writeFileSync(new URL('../core/test/reference/chips/vectors.json', import.meta.url), `${JSON.stringify(result, null, 1)}\n`);
process.stdout.write(`${chips.length} chips, ${Object.values(result.chips).reduce((sum, { vectors }) => sum + vectors.split('\n').length, 0)} vectors\n`);
