// Makes realistic drive boards of any size for the benchmark: supply entries with regulators, logic
// clusters, transistor drivers, sensors and decoupling.
import type { Board } from '@hanzai/core/board';
import { readDeck } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';

/**
 * A small generator with a fixed seed, so that boards repeat. Source: Park & Miller, CACM 31, 1988.
 */
function generator(seed: number): (below: number) => number {
  let state = seed;
  return (below) => (state = (state * 48271) % 2147483647) % below;
}

/**
 * A drive board of about `parts` parts. The same number and seed give the same board. discrete:
 * without chips, regulators and sensors, so that a general circuit simulator can solve it too.
 */
export function driveBoard(parts: number, seed = 7, discrete = false): Board {
  const random = generator(seed);
  const lines = [
    `drive board of ${parts} parts`,
    'V1 SUP 0 12',
    '.model DS D (IS=5n N=1.7 RS=0.5)',
    '.model DZ D (BV=5.6 IBV=5m)',
    '.model QN NPN (BF=150 IS=1e-14)',
    '.model QP PNP (BF=120 IS=1e-14)',
  ];
  let count = 0;
  const numbers: Record<string, number> = {};
  const put = (letter: string, body: string, note = ''): void => {
    numbers[letter] = (numbers[letter] ?? 0) + 1;
    const ref = `${letter}${numbers[letter]}`;
    lines.push(`${'RCLDQ'.includes(letter) ? '' : 'X'}${ref} ${body}`);
    if (note) lines.push(`*@ ${ref} ${note}`);
    count += 1;
  };
  const electrolytic = (volt: number): string =>
    `kind=electrolytic volt=${volt} esr=0.${2 + random(6)} fit=1988`;
  put('J', 'SUP VIN PIN', 'role="supply in"');
  put('F', 'VIN VF FUSE');
  put('L', 'VF V12 47u', 'dcr=0.2');
  put('C', 'V12 0 470u', electrolytic(25));
  put('C', 'V12 0 100n', 'kind=ceramic volt=50');
  if (discrete) put('R', 'V12 V5 12');
  else put('U', 'V12 0 V5 7805');
  put('C', 'V5 0 100u', electrolytic(10));
  put('D', '0 V5 DZ');
  let block = 0;
  let bus = 'V5';
  while (count < parts) {
    block += 1;
    const n = (name: string): string => `B${block}${name}`;
    const kind = discrete ? 1 + 2 * random(2) : random(4);
    put('L', `V5 ${n('VCC')} 10u`, 'dcr=0.1');
    put('C', `${n('VCC')} 0 22u`, electrolytic(10));
    put('C', `${n('VCC')} 0 100n`, 'kind=ceramic volt=50');
    if (kind === 0) {
      // Logic: a bus line through an open-collector inverter, a gate and a register.
      put(
        'U',
        `${bus} ${n('A')} ${n('A')} ${n('B')} ${n('Q')} ${n('S')} 0 ${n('T')} ${n('B')} ${n('E')} ${n('A')} ${n('F')} ${n('B')} ${n('VCC')} 74LS06`,
      );
      for (const net of ['A', 'B', 'S', 'T', 'E', 'F']) put('R', `${n('VCC')} ${n(net)} 4.7k`);
      put(
        'U',
        `${n('A')} ${n('B')} ${n('X')} ${n('X')} ${n('E')} ${n('Y')} 0 ${n('Z')} ${n('S')} ${n('T')} ${n('W')} ${n('F')} ${n('X')} ${n('VCC')} 74LS86`,
      );
      put(
        'U',
        `${n('RES')} ${n('X')} ${n('Y')} ${n('RES')} ${n('Q')} ${n('QN')} 0 ${n('Q2N')} ${n('Q2')} ${n('RES')} ${n('Z')} ${n('W')} ${n('RES')} ${n('VCC')} 74LS74`,
      );
      put('R', `${n('VCC')} ${n('RES')} 10k`);
      put('C', `${n('RES')} 0 10u`, electrolytic(16));
      bus = n('Y');
    } else if (kind === 1) {
      // A motor driver: two transistors, a coil, a flyback diode, a sense resistor.
      put('R', `${bus} ${n('BA')} 2.2k`);
      put('Q', `${n('CA')} ${n('BA')} 0 QN`);
      put('R', `${n('CA')} ${n('PB')} 1k`);
      put('R', `V12 ${n('PB')} 10k`);
      put('Q', `${n('M')} ${n('PB')} V12 QP`);
      put('L', `${n('M')} ${n('SN')} 5m`, `dcr=${20 + random(30)}`);
      put('R', `${n('SN')} 0 1`);
      put('D', `0 ${n('M')} DS`);
      put('C', `${n('M')} 0 47n`, 'kind=film volt=100');
    } else if (kind === 2) {
      // A sensor and an amplifier.
      put('R', `${n('VCC')} ${n('LA')} 180`);
      put('O', `${n('LA')} 0 ${n('SC')} 0 INTERRUPTER`);
      put('R', `${n('VCC')} ${n('SC')} 10k`);
      put('R', `${n('SC')} ${n('IP')} 10k`);
      put('C', `${n('IP')} 0 100n`, 'kind=film');
      put('U', `${n('OUT')} ${n('FB')} ${n('IP')} 0 ${n('IP')} ${n('O2')} ${n('O2')} V12 358`);
      put('R', `${n('OUT')} ${n('FB')} 10k`);
      put('R', `${n('FB')} 0 10k`);
      put('C', `${n('OUT')} ${n('AC')} 4.7u`, electrolytic(25));
      put('R', `${n('AC')} 0 47k`);
    } else {
      // Passive clutter: dividers, filters, a clamp.
      for (let i = 0; i < 3; i += 1) {
        put('R', `${n('VCC')} ${n(`D${i}`)} ${(1 + random(9)) * 1000}`);
        put('R', `${n(`D${i}`)} 0 ${(1 + random(9)) * 1000}`);
        put('C', `${n(`D${i}`)} 0 ${1 + random(9)}u`, electrolytic(16));
      }
      put('D', `${n('D0')} ${n('VCC')} DS`);
    }
  }
  const deck = readDeck(`${lines.join('\n')}\n.end\n`, LIBRARY);
  if (!deck.ok) throw new Error(JSON.stringify(deck.issues));
  return deck.value;
}
