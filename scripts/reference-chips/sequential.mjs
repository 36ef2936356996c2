// Flip-flops, counters, registers: one input at a time is moved, from a cleared state.
import { binary, bus, chips, decade, flop, n } from './describe.mjs';

// Preset and clear act by level, so that releasing one of them while the other still stands is
// right.
const ends = (q, clr, pre) =>
  `always @(${[clr, pre]
    .filter(Boolean)
    .map((pin) => `p${pin}`)
    .join(
      ' or ',
    )}) ${clr ? `if (!p${clr}) r${q} = 0; else ` : ''}${pre ? `if (!p${pre}) r${q} = 1;` : ';'}`;
const quiet = (clr, pre) =>
  [clr, pre]
    .filter(Boolean)
    .map((pin) => `p${pin}`)
    .join(' & ') || '1';
const dType = (
  ck,
  clr,
  pre,
  d,
  q,
  qn,
) => `reg r${q}; ${ends(q, clr, pre)} always @(posedge p${ck}) if (${quiet(clr, pre)}) r${q} = p${d};
  assign p${q} = r${q} | ~p${pre}; assign p${qn} = ~r${q} | ~p${clr};`;
const jk = (edge, ck, clr, pre, j, k, q, qn) => `reg r${q}; ${ends(q, clr, pre)}
  always @(${edge} p${ck}) if (${quiet(clr, pre)}) case ({${j},${k}}) 2'b10: r${q} = 1; 2'b01: r${q} = 0; 2'b11: r${q} = ~r${q}; endcase
  assign p${q} = r${q}${pre ? ` | ~p${pre}` : ''}; assign p${qn} = ~r${q}${clr ? ` | ~p${clr}` : ''};`;
flop(
  '74LS74',
  [1, 2, 3, 4, 10, 11, 12, 13],
  [5, 6, 9, 8],
  dType(3, 1, 4, 2, 5, 6) + dType(11, 13, 10, 12, 9, 8),
  { 1: 0, 4: 1, 13: 0, 10: 1 },
  [3, 11],
);
flop(
  '7473',
  [1, 2, 3, 14, 5, 6, 7, 10],
  [12, 13, 9, 8],
  jk('negedge', 1, 2, 0, 'p14', 'p3', 12, 13) + jk('negedge', 5, 6, 0, 'p7', 'p10', 9, 8),
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
  jk('negedge', 12, 13, 0, 'p1', 'p4', 3, 2) + jk('negedge', 9, 10, 0, 'p8', 'p11', 5, 6),
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
  decade({ a: 14, b: 1, zero: [2, 3], nine: [6, 7], out: [12, 9, 8, 11] }),
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
  binary({ a: 14, b: 1, zero: [2, 3], out: [12, 9, 8, 11] }),
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
flop(
  '74LS373',
  [1, 11, ...d8],
  q8,
  `reg [7:0] q; always @* if (p11) q = ${bus(d8)}; assign ${bus(q8)} = p1?8'bz:q;`,
  { 11: 1 },
  [11],
);
flop(
  '74LS374',
  [1, 11, ...d8],
  q8,
  `reg [7:0] q; always @(posedge p11) q <= ${bus(d8)}; assign ${bus(q8)} = p1?8'bz:q;`,
  {},
  [11],
);
flop(
  '74LS377',
  [1, 11, ...d8],
  q8,
  `reg [7:0] q; always @(posedge p11) if (!p1) q <= ${bus(d8)}; assign ${bus(q8)} = q;`,
  { 1: 0 },
  [11],
);
flop(
  '74LS574',
  [1, 11, ...n(2, 9)],
  n(19, 12),
  `reg [7:0] q; always @(posedge p11) q <= ${bus(n(2, 9))}; assign ${bus(n(19, 12))} = p1?8'bz:q;`,
  {},
  [11],
);
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
