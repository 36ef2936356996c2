// Writes the reference decks of core/test/reference/decks and, with a general circuit simulator
// (Debian package ngspice) on the machine, their operating points as that simulator finds them:
// expected.json beside the decks. Run by hand when a deck is added:
//   node scripts/reference-decks.mjs
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { printedNodes, runDeck, simulatorVersion } from './simulator.mjs';

const folder = new URL('../core/test/reference/decks/', import.meta.url).pathname;
const D = '.model D1N D(IS=2.52e-9 N=1.752 RS=0.568)\n.model DS D(IS=1e-14)\n';
const Z = (bv) => `.model DZ${String(bv).replace('.', 'p')} D(IS=1e-14 BV=${bv} IBV=5m)\n`;
const Q = '.model QN NPN(IS=6.7e-15 BF=180 BR=4)\n.model QP PNP(IS=6.5e-16 BF=120 BR=3)\n';
const LED = '.model LR D(IS=1e-18 N=1.8 RS=2)\n';

const ladder = (n) =>
  Array.from(
    { length: n },
    (_, i) => `RS${i} N${i} N${i + 1} ${100 + 10 * i}\nRP${i} N${i + 1} 0 ${1000 + 50 * i}`,
  ).join('\n');
const grid = (n) => {
  const lines = [];
  for (let y = 0; y < n; y += 1) {
    for (let x = 0; x < n; x += 1) {
      if (x + 1 < n)
        lines.push(`RX${y}_${x} G${y}_${x} G${y}_${x + 1} ${10 + ((7 * x + 3 * y) % 11)}`);
      if (y + 1 < n)
        lines.push(`RY${y}_${x} G${y}_${x} G${y + 1}_${x} ${10 + ((5 * x + 2 * y) % 13)}`);
    }
  }
  return lines.join('\n');
};

const decks = {
  divider: 'V1 IN 0 5\nR1 IN OUT 10k\nR2 OUT 0 4.7k',
  'divider-loaded': 'V1 IN 0 12\nR1 IN OUT 1k\nR2 OUT 0 2.2k\nR3 OUT 0 470',
  bridge: 'V1 A 0 10\nR1 A B 100\nR2 A C 220\nR3 B 0 330\nR4 C 0 470\nR5 B C 150',
  'ladder-20': `V1 N0 0 10\n${ladder(20)}`,
  'grid-12': `V1 G0_0 0 5\nR0 G11_11 0 1\n${grid(12)}`,
  'current-source': 'I1 0 A 2m\nR1 A B 1k\nR2 B 0 2k\nR3 A 0 10k\nV1 C 0 3\nR4 B C 5k',
  'two-supplies':
    'VP P 0 12\nVN N 0 -12\nR1 P A 1k\nR2 A N 3k\nR3 A 0 10k\nR4 A B 100\nR5 B 0 1meg',
  'coil-chain': 'V1 A 0 5\nL1 A B 10u\nL2 B C 100u\nR1 C D 0.3\nL3 D E 1m\nR2 E 0 22\nC1 E 0 100u',
  'diode-forward': `V1 A 0 5\nR1 A B 330\nD1 B 0 D1N\n${D}`,
  'diode-reverse': `V1 A 0 5\nR1 A B 100k\nD1 0 B D1N\n${D}`,
  'diode-string': `V1 A 0 5\nR1 A B 1k\nD1 B C DS\nD2 C E DS\nD3 E 0 D1N\n${D}`,
  'diode-or': `V1 A 0 5\nV2 B 0 3.3\nD1 A O D1N\nD2 B O D1N\nR1 O 0 1k\n${D}`,
  'bridge-rectifier': `V1 A B 12\nR0 B X 1\nD1 A P D1N\nD2 X P D1N\nD3 0 A D1N\nD4 0 X D1N\nR1 P 0 100\n${D}`,
  'zener-shunt': `V1 A 0 12\nR1 A B 220\nD1 0 B DZ5p1\nR2 B 0 1k\n${Z(5.1)}`,
  'zener-knee': `V1 A 0 5.4\nR1 A B 10k\nD1 0 B DZ5p1\n${Z(5.1)}`,
  'zener-back-to-back': `V1 A 0 20\nR1 A B 1k\nD1 C B DZ6p2\nD2 C 0 DZ6p2\nR2 B 0 100k\n${Z(6.2)}`,
  'zener-clamp-entry': `V1 IN 0 13.5\nRF1 IN F 0.05\nL1 F VD 47u\nD1 0 VD DZ12\nC1 VD 0 220u\nR1 VD 0 680\n${Z(12)}`,
  leds: `V1 A 0 5\nR1 A B 330\nD1 B 0 LR\nR2 A C 150\nD2 C E LR\nD3 E 0 D1N\n${LED}${D}`,
  'npn-divider-bias': `V1 VCC 0 12\nR1 VCC B 47k\nR2 B 0 10k\nR3 VCC C 4.7k\nR4 E 0 1k\nQ1 C B E QN\n${Q}`,
  'npn-saturated': `V1 VCC 0 5\nR1 VCC B 4.7k\nR2 VCC C 1k\nQ1 C B 0 QN\n${Q}`,
  'npn-off': `V1 VCC 0 5\nR1 B 0 10k\nR2 VCC C 1k\nQ1 C B 0 QN\n${Q}`,
  'pnp-high-side': `V1 VCC 0 12\nR1 VCC B 10k\nR2 B D 2.2k\nQ2 D I 0 QN\nR3 I S 4.7k\nV2 S 0 5\nQ1 O B VCC QP\nR4 O 0 100\n${Q}`,
  darlington: `V1 VCC 0 12\nV2 I 0 5\nR1 I B 10k\nQ1 C B M QN\nQ2 C M 0 QN\nR2 VCC C 47\nR3 M 0 4.7k\nD1 C VCC D1N\n${Q}${D}`,
  'emitter-follower': `V1 VCC 0 9\nR1 VCC B 22k\nR2 B 0 33k\nQ1 VCC B E QN\nR3 E 0 470\n${Q}`,
  'current-mirror': `V1 VCC 0 10\nR1 VCC A 4.7k\nQ1 A A 0 QN\nQ2 B A 0 QN\nR2 VCC B 1k\n${Q}`,
  'long-tailed-pair': `V1 P 0 12\nV2 N 0 -12\nV3 I 0 0.01\nQ1 C1 I E QN\nQ2 C2 0 E QN\nR1 P C1 5.6k\nR2 P C2 5.6k\nR3 E N 6.8k\n${Q}`,
  'push-pull': `V1 P 0 12\nV2 N 0 -12\nV3 I 0 3\nR1 P B1 4.7k\nD1 B1 I DS\nD2 I B2 DS\nR2 B2 N 4.7k\nQ1 P B1 O QN\nQ2 N B2 O QP\nR3 O 0 100\n${Q}${D}`,
  'series-regulator': `V1 IN 0 12\nR1 IN B 470\nD1 0 B DZ5p6\nQ1 IN B OUT QN\nR2 OUT 0 100\n${Z(5.6)}${Q}`,
  'feedback-regulator': `V1 IN 0 15\nR1 IN C 2.2k\nQ1 IN C OUT QN\nQ2 C F R QN\nD1 0 R DZ5p1\nR4 OUT R 1k\nR2 OUT F 4.7k\nR3 F 0 6.8k\nR5 OUT 0 220\n${Z(5.1)}${Q}`,
  'schmitt-two-transistor': `V1 VCC 0 12\nV2 I 0 6\nR0 I B1 1k\nQ1 C1 B1 E QN\nQ2 C2 B2 E QN\nR1 VCC C1 4.7k\nR2 VCC C2 2.2k\nR3 C1 B2 10k\nR4 B2 0 22k\nR5 E 0 470\n${Q}`,
  'h-bridge': `V1 VM 0 9\nV2 HI 0 5\nRA HI BA 1k\nQ1 BP BA 0 QN\nR1 VM B1 1k\nR2 B1 BP 470\nQ3 OA B1 VM QP\nRB HI BB 470\nQ4 OB BB 0 QN\nR5 OA M 0.5\nL1 M OB 2m\nR6 OA OB 1k\n${Q}`,
  'ttl-inverter': `V1 VCC 0 5\nV2 IN 0 2.4\nR1 VCC B1 4k\nQ1 B2 B1 IN QN\nR2 VCC C2 1.6k\nQ2 C2 B2 B4 QN\nR3 B4 0 1k\nQ4 OUT B4 0 QN\nR4 VCC C3 130\nQ3 C3 C2 E3 QN\nD1 E3 OUT D1N\nRL VCC OUT 4.7k\n${Q}${D}`,
  'ttl-inverter-high': `V1 VCC 0 5\nV2 IN 0 0.2\nR1 VCC B1 4k\nQ1 B2 B1 IN QN\nR2 VCC C2 1.6k\nQ2 C2 B2 B4 QN\nR3 B4 0 1k\nQ4 OUT B4 0 QN\nR4 VCC C3 130\nQ3 C3 C2 E3 QN\nD1 E3 OUT D1N\nRL OUT 0 4.7k\n${Q}${D}`,
  'relay-driver': `V1 V24 0 24\nV2 I 0 3.3\nR1 I B 2.2k\nR2 B 0 10k\nQ1 C B 0 QN\nR3 V24 K 360\nL1 K C 0.8\nD1 C V24 D1N\n${Q}${D}`,
  'high-resistance': 'V1 A 0 5\nR1 A B 10meg\nR2 B 0 10meg\nR3 B C 1meg\nC1 C 0 1n\nR4 C 0 47meg',
  'subcircuit-pads':
    '.subckt PAD I O G\nR1 I M 100\nR2 M G 1k\nR3 M O 100\n.ends\nV1 A 0 8\nXP1 A B 0 PAD\nXP2 B C 0 PAD\nXP3 C D 0 PAD\nR9 D 0 150',
};

/** Operating point of one deck, {net: volt}, from the simulator's batch mode. */
function simulate(file) {
  return Object.fromEntries(printedNodes(runDeck(file)));
}

mkdirSync(folder, { recursive: true });
const scratch = mkdtempSync(join(tmpdir(), 'decks-'));
const points = {};
for (const [name, body] of Object.entries(decks)) {
  const text = `reference deck ${name}\n${body.trim()}\n.end\n`;
  writeFileSync(join(folder, `${name}.cir`), text);
  const run = join(scratch, `${name}.cir`);
  writeFileSync(
    run,
    text.replace(
      '.end\n',
      '.options reltol=1e-6 abstol=1e-14 vntol=1e-9 gmin=1e-12\n.control\nset numdgt=9\nop\nprint all\nquit 0\n.endc\n.end\n',
    ),
  );
  points[name] = simulate(run);
  if (Object.keys(points[name]).length === 0)
    throw new Error(`the simulator found no operating point for ${name}`);
}
rmSync(scratch, { recursive: true });
const version = simulatorVersion();
writeFileSync(
  join(folder, 'expected.json'),
  `${JSON.stringify({ simulator: `${version} (Debian package ngspice)`, unit: 'volt to net 0', points }, null, 1)}\n`,
);
process.stdout.write(`${Object.keys(points).length} decks, ${version}\n`);
