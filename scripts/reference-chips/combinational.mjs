// Gates, arithmetic, decoders, selectors and bus drivers.
import { bus, chip, n } from './describe.mjs';

const gates = (name, units, operator) =>
  chip(
    name,
    units.flatMap((unit) => unit.slice(0, -1)),
    units.map((unit) => unit.at(-1)),
    units
      .map(
        (unit) =>
          `assign p${unit.at(-1)} = ${operator(unit.slice(0, -1).map((pin) => `p${pin}`))};`,
      )
      .join('\n'),
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
chip(
  '7425',
  [1, 2, 3, 4, 5, 9, 10, 11, 12, 13],
  [6, 8],
  'assign p6 = ~(p3 & (p1|p2|p4|p5)); assign p8 = ~(p11 & (p9|p10|p12|p13));',
);
chip(
  '7451',
  [1, 2, 3, 4, 5, 9, 10, 13],
  [6, 8],
  'assign p8 = ~((p1&p13)|(p9&p10)); assign p6 = ~((p2&p3)|(p4&p5));',
);
chip(
  '74LS51',
  [1, 2, 3, 4, 5, 9, 10, 11, 12, 13],
  [6, 8],
  'assign p8 = ~((p1&p12&p13)|(p9&p10&p11)); assign p6 = ~((p2&p3)|(p4&p5));',
);
chip('7454', [1, 13, 2, 3, 4, 5, 9, 10], [8], 'assign p8 = ~((p1&p13)|(p2&p3)|(p4&p5)|(p9&p10));');
chip(
  '74LS55',
  [1, 2, 3, 4, 10, 11, 12, 13],
  [8],
  'assign p8 = ~((&{p1,p2,p3,p4})|(&{p10,p11,p12,p13}));',
);
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
chip(
  '74LS367',
  [1, 15, 2, 4, 6, 10, 12, 14],
  [3, 5, 7, 9, 11, 13],
  "assign {p3,p5,p7,p9} = p1?4'bz:{p2,p4,p6,p10}; assign {p11,p13} = p15?2'bz:{p12,p14};",
);
chip(
  '74LS368',
  [1, 15, 2, 4, 6, 10, 12, 14],
  [3, 5, 7, 9, 11, 13],
  "assign {p3,p5,p7,p9} = p1?4'bz:~{p2,p4,p6,p10}; assign {p11,p13} = p15?2'bz:~{p12,p14};",
);
chip(
  '74LS365',
  [1, 15, 2, 4, 6, 10, 12, 14],
  [3, 5, 7, 9, 11, 13],
  "assign {p3,p5,p7,p9,p11,p13} = (p1|p15)?6'bz:{p2,p4,p6,p10,p12,p14};",
);

// Arithmetic and decoding.
chip(
  '7483',
  [10, 8, 3, 1, 11, 7, 4, 16, 13],
  [9, 6, 2, 15, 14],
  'assign {p14,p15,p2,p6,p9} = {p1,p3,p8,p10} + {p16,p4,p7,p11} + p13;',
);
chip(
  '74LS283',
  [5, 3, 14, 12, 6, 2, 15, 11, 7],
  [4, 1, 13, 10, 9],
  'assign {p9,p10,p13,p1,p4} = {p12,p14,p3,p5} + {p11,p15,p2,p6} + p7;',
);
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
// Published function table of the arithmetic unit for active-high data, M = 0 by arithmetic and M =
// 1 by function; carry in and out act low.
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
  chip(
    name,
    select,
    [4, 7, 9, 12],
    `wire [3:0] m = p1?{p3,p6,p10,p13}:{p2,p5,p11,p14}; assign {p4,p7,p9,p12} = ${expression};`,
  );
chip(
  '74180',
  [1, 2, 3, 4, 8, 9, 10, 11, 12, 13],
  [5, 6],
  'wire o = ^{p1,p2,p8,p9,p10,p11,p12,p13}; assign p5 = ~(o?p3:p4); assign p6 = ~(o?p4:p3);',
);
chip(
  '74LS280',
  [1, 2, 4, 8, 9, 10, 11, 12, 13],
  [5, 6],
  'wire o = ^{p1,p2,p4,p8,p9,p10,p11,p12,p13}; assign p6 = o; assign p5 = ~o;',
);
chip(
  '74LS688',
  [1, ...n(2, 9), ...n(11, 18)],
  [19],
  'assign p19 = p1 | ({p2,p4,p6,p8,p11,p13,p15,p17} != {p3,p5,p7,p9,p12,p14,p16,p18});',
);
chip(
  '7447',
  [7, 1, 2, 6, 3, 4, 5],
  [13, 12, 11, 10, 9, 15, 14],
  `
  reg [6:0] s; always @* case ({p6,p2,p1,p7}) 0: s=7'b1111110; 1: s=7'b0110000; 2: s=7'b1101101; 3: s=7'b1111001; 4: s=7'b0110011; 5: s=7'b1011011; 6: s=7'b0011111; 7: s=7'b1110000;
    8: s=7'b1111111; 9: s=7'b1110011; 10: s=7'b0001101; 11: s=7'b0011001; 12: s=7'b0100011; 13: s=7'b1001011; 14: s=7'b0001111; 15: s=7'b0000000; endcase
  assign {p13,p12,p11,p10,p9,p15,p14} = !p4 ? 7'h7f : !p3 ? 7'd0 : (!p5 && {p6,p2,p1,p7} == 0) ? 7'h7f : ~s;`,
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
chip(
  '74LS541',
  [1, 19, ...n(2, 9)],
  n(18, 11),
  `assign ${bus(n(18, 11))} = (p1|p19)?8'bz:${bus(n(2, 9))};`,
);
chip('75451', [1, 2, 6, 7], [3, 5], 'assign p3 = p1&p2; assign p5 = p6&p7;');
chip('75452', [1, 2, 6, 7], [3, 5], 'assign p3 = ~(p1&p2); assign p5 = ~(p6&p7);');
