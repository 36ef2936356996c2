import type { Board } from '@hanzai/core/board';
import { bus, MODELS, onBus, Sheet } from './sheet';

/**
 * What the PD-3's program does with the ports of its adapters while nobody asks: the upper half of
 * port A rests at 0, the lower half of port B moves, the rest are inputs. Invented.
 */
// prettier-ignore
const PORTS = [
  ...bus('PA', 0, 4).map((pin) => `${pin} = 1 when 0`), ...bus('PA', 4, 4).map((pin) => `${pin} = RES ? 0 : 1`),
  ...bus('PB', 0, 4).map((pin) => `${pin} = RES ? CLK : 1`), ...bus('PB', 4, 4).map((pin) => `${pin} = 1 when 0`), 'IRQ = 1',
];

/**
 * PD3-IF, the bus interface board of the Ostrel PD-3 pattern-disk unit: open-collector host bus,
 * exclusive-OR address switch, two interface adapters, processor, ROM, four pairs of nibble RAM,
 * lamps. Invented.
 */
// prettier-ignore
export function pd3Interface(): Board {
  const s = new Sheet('PD3-IF, bus interface of the Ostrel PD-3', 240, 150, 1984);
  const A = (count: number): Record<string, string> => onBus(bus('A', 0, count), bus('A', 0, count));
  const D = onBus(bus('D', 0, 8), bus('D', 0, 8));

  s.supply('V1', 'SUP5', 5).supply('V2', 'SUP12', 12);
  s.region(6, 8, 5, 7)
    .two('connectorPin', 'J1.1', 'SUP5', 'P5IN', { role: '5 V in' }).two('connectorPin', 'J1.2', 'SUP12', 'P12', { role: '12 V in, to the drive' })
    .two('fuse', 'F1', 'P5IN', 'P5F', { rating: 'T2A', role: 'logic fuse' })
    .l('L1', 'P5F', 'P5', 10e-6, 0.03, { role: 'supply choke' })
    .electrolytic('C1', 'P5', '0', 220, 10, 0.12, 'logic bulk').electrolytic('C2', 'P5', '0', 47, 10, 0.4, 'logic bulk, far corner').electrolytic('C3', 'P12', '0', 47, 25, 0.4, '12 V bulk')
    .d('D5', '0', 'P5', MODELS.zener(6.2), 'over-voltage clamp');
  s.region(20, 140, 20, 9);
  for (let i = 0; i < 16; i += 1) s.c(`C${10 + i}`, 'P5', '0', 100e-9);

  // Reset and clock.
  s.region(8, 40, 4, 6).r('R1', 'P5', 'RSTRC', 10e3, { role: 'reset time' }).electrolytic('C4', 'RSTRC', '0', 10, 16, 1.2, 'reset time').d('D1', 'RSTRC', 'P5', MODELS.signal, 'reset discharge');
  s.chip('U3', '74LS14', { A1: 'RSTRC', Y1: 'RSTN', A2: 'RSTN', Y2: 'RES', A3: 'ATTN', Y3: 'ATTNI', A4: 'HCLK', Y4: 'HCLKI', A5: 'HDAT', Y5: 'HDATI', A6: '0' }, [30, 60], 'bus receivers and reset');
  s.chip('Y1', 'CLOCK4', { Y: 'CLK2' }, [60, 30], 'clock module, 2 MHz');
  s.chip('U18', '74LS74', { D1: 'CLK1N', CK1: 'CLK2', PRE1: 'P5', CLR1: 'RES', Q1: 'CLK1', QN1: 'CLK1N', D2: '0', CK2: '0', PRE2: 'P5', CLR2: 'P5' }, [80, 30], 'clock divider');

  // Host bus: open collector, pulled up here, joined to the host through J2.
  s.array('RN1', 'P5', ['ATTN', 'HCLK', 'HDAT', 'HRST'], 1e3, 'bus pull-up');
  s.region(6, 70, 2, 6);
  ['ATTN', 'HCLK', 'HDAT', 'HRST'].forEach((net, i) => s.d(`D${6 + i}`, '0', net, MODELS.signal, 'bus clamp').edge(net, 'host and other units hang on this line'));
  s.chip('U1', '7406', { A1: 'HCLKO', Y1: 'HCLK', A2: 'HDATO', Y2: 'HDAT', A3: 'ACK', Y3: 'HDAT', A4: 'LAMPA', Y4: 'LA', A5: 'LAMPB', Y5: 'LB', A6: 'LAMPC', Y6: 'LC' }, [30, 90], 'open-collector bus and lamp drivers');
  s.chip('U2', '74LS86', { A1: 'ATTNI', B1: 'ATNA', Y1: 'ACKX', A2: 'SW0', B2: 'PAD0', Y2: 'AEQ0', A3: 'SW1', B3: 'PAD1', Y3: 'AEQ1', A4: 'ACKX', B4: '0', Y4: 'ACKB' }, [50, 90], 'attention acknowledge and address compare');
  s.chip('U17', '74LS00', { A1: 'ACKB', B1: 'ACKEN', Y1: 'ACKN', A2: 'ACKN', B2: 'P5', Y2: 'ACK', A3: 'RW', B3: 'CLK1', Y3: 'RDN', A4: 'RWN', B4: 'CLK1', Y4: 'WEN' }, [70, 90], 'strobes');
  s.region(10, 110, 6, 6)
    .toggle('S1', 'SW0', '0', 'open', 'address switch 0').toggle('S2', 'SW1', '0', 'closed', 'address switch 1')
    .array('RN2', 'P5', ['SW0', 'SW1', 'IRQ', 'PAD0', 'PAD1'], 3300, 'pull-up')
    .r('R3', 'P5', 'RDYP', 3300).r('R4', 'P5', 'NMI', 3300).r('R5', 'LA', 'LAK', 220, { role: 'lamp resistor' }).r('R6', 'LB', 'LBK', 220, { role: 'lamp resistor' }).r('R7', 'LC', 'LCK', 220, { role: 'lamp resistor' })
    .d('D2', 'P5', 'LAK', MODELS.lamp, 'ready lamp').d('D3', 'P5', 'LBK', MODELS.lamp, 'busy lamp').d('D4', 'P5', 'LCK', MODELS.lamp, 'error lamp');

  // Processor and memory.
  s.chip('U6', '6502', { ...A(16), ...D, RW: 'RW', CLK: 'CLK1', RES: 'RES', RDY: 'RDYP', IRQ: 'IRQ', NMI: 'NMI', SO: 'P5', PH2: 'PH2' }, [110, 90], 'processor');
  s.chip('U16', '74LS138', { A: 'A11', B: 'A12', C: 'A13', G1: 'PH2', G2A: 'A14', G2B: '0', Y0: 'CSR0', Y1: 'CSR1', Y2: 'CSR2', Y3: 'CSR3', Y4: 'CSVA', Y5: 'CSVB', Y6: 'CSLT' }, [140, 30], 'address decoder');
  s.chip('U20', '74LS04', { A1: 'RW', Y1: 'RWN', A2: 'A15', Y2: 'CSROM', A3: 'CSLT', Y3: 'LTE', A4: '0', A5: '0', A6: '0' }, [160, 30], 'inverters');
  s.chip('U7', '2732', { ...A(12), ...D, CE: 'CSROM', OE: '0' }, [140, 90], 'program ROM');
  for (let pair = 0; pair < 4; pair += 1) {
    s.chip(`U${8 + 2 * pair}`, '2114', { ...A(10), CS: `CSR${pair}`, WE: 'WEN', ...onBus(['D1', 'D2', 'D3', 'D4'], bus('D', 0, 4)) }, [170 + 15 * pair, 90], `RAM pair ${pair + 1}, low nibble`);
    s.chip(`U${9 + 2 * pair}`, '2114', { ...A(10), CS: `CSR${pair}`, WE: 'WEN', ...onBus(['D1', 'D2', 'D3', 'D4'], bus('D', 4, 4)) }, [170 + 15 * pair, 115], `RAM pair ${pair + 1}, high nibble`);
  }
  s.chip('U4', '6522', { ...D, CLK: 'PH2', RES: 'RES', RW: 'RW', CS1: 'P5', CS2: 'CSVA', ...onBus(bus('RS', 0, 4), bus('A', 0, 4)), PB4: 'HCLKI', PB5: 'HDATI', PB6: 'AEQ0', PB7: 'AEQ1', PA4: 'HDATO', PA5: 'HCLKO', PA6: 'ATNA', PA7: 'ACKEN', PA0: 'PAD0', PA1: 'PAD1', CA1: 'ATTNI', CA2: 'P5', CB1: 'P5', CB2: 'P5', IRQ: 'IRQ' }, [110, 30], 'host adapter', 'P5', PORTS);
  s.chip('U5', '6522', { ...D, CLK: 'PH2', RES: 'RES', RW: 'RW', CS1: 'P5', CS2: 'CSVB', ...onBus(bus('RS', 0, 4), bus('A', 0, 4)), PB0: 'STEPA', PB1: 'STEPB', PB2: 'MOTOR', PB3: 'LAMPB', PB4: 'WPROT', PB5: 'SYNC', PB6: 'P5', PB7: 'P5', PA4: 'W4', PA5: 'W5', PA6: 'W6', PA7: 'W7', CA1: 'BYTE', CA2: 'P5', CB1: 'P5', CB2: 'P5', IRQ: 'IRQ' }, [90, 60], 'disk adapter', 'P5', PORTS);
  s.chip('U19', '74LS373', { ...onBus(bus('D', 1, 8), bus('D', 0, 8)), E: 'LTE', OE: '0', Q1: 'LAMPA', Q2: 'LAMPC', Q3: 'WGATE', Q4: 'SIDE' }, [200, 30], 'lamp and write-gate latch');
  s.region(200, 10, 5, 6).r('R8', 'P5', 'WPROT', 4700, { role: 'write-protect pull-up' }).r('R9', 'P5', 'BYTE', 4700).r('R10', 'P5', 'SYNC', 4700).r('R11', 'WGATE', '0', 10e3);
  ['STEPA', 'STEPB', 'MOTOR', 'WGATE', 'WPROT', 'SYNC', 'BYTE'].forEach((net) => s.edge(net, 'goes to the read/write board'));

  s.see('boots', 'self-test runs: the address lines move', [{ type: 'level', at: 'A0', is: ['P'] }])
    .see('bus-free', 'attention, clock and data lines of the host bus are up with nothing attached', [{ type: 'volts', at: 'ATTN', least: 3.5 }, { type: 'volts', at: 'HCLK', least: 3.5 }, { type: 'volts', at: 'HDAT', least: 3.5 }])
    .see('quiet', 'no acknowledge while nobody asks: the exclusive OR rests at 0', [{ type: 'level', at: 'ACKX', is: ['0'] }])
    .see('lamps-move', 'the busy lamp blinks or glows', [{ type: 'level', at: 'LAMPB', is: ['P', '1'] }])
    .see('power', 'the board has its 5 V', [{ type: 'volts', at: 'P5', least: 4.7, most: 5.3 }]);
  s.test('P5', '5 V').test('RES', 'reset').test('CLK1', '1 MHz').test('ATTN', 'attention').test('0', 'ground');
  s.hazard('static', 'MOS chips: wrist strap on before sockets are touched');
  return s.done();
}
