import type { Board } from '@hanzai/core/board';
import { MODELS, Sheet } from './sheet';

/**
 * PD3-RW, the read/write board of the Ostrel PD-3: two heads with centre-tapped windings and
 * steering diodes, read amplifier, home sensor, stepper and motor drivers. Invented.
 */
// prettier-ignore
export function pd3ReadWrite(): Board {
  const s = new Sheet('PD3-RW, read/write board of the Ostrel PD-3', 150, 100, 1984);
  s.supply('V1', 'SUP5', 5).supply('V2', 'SUP12', 12);
  s.region(6, 8, 6, 6)
    .two('connectorPin', 'J1.1', 'SUP5', 'P5', { role: '5 V in' }).two('connectorPin', 'J1.2', 'SUP12', 'P12', { role: '12 V in' })
    .electrolytic('C1', 'P5', '0', 47, 10, 0.4, 'logic bulk').electrolytic('C2', 'P12', '0', 100, 25, 0.25, 'motor bulk').c('C3', 'P5', '0', 100e-9).c('C4', 'P12', '0', 100e-9)
    .l('L3', 'P12', 'P12A', 100e-6, 1.2, { role: 'amplifier supply filter' }).electrolytic('C5', 'P12A', '0', 22, 25, 0.7, 'amplifier supply');
  // Heads: two halves and an erase winding each, from the centre tap.
  for (const head of [0, 1]) {
    s.region(10, 24 + 30 * head, 6, 6)
      .winding(`HD${head}.1`, `TAP${head}`, `HA${head}`, 120e-6, 13, `head ${head}, first half`).winding(`HD${head}.2`, `TAP${head}`, `HB${head}`, 120e-6, 13, `head ${head}, second half`)
      .winding(`HD${head}.3`, `TAP${head}`, `HE${head}`, 200e-6, 14, `head ${head}, erase`)
      .d(`D${1 + 2 * head}`, `HA${head}`, 'RDA', MODELS.signal, `head ${head}, steering`).d(`D${2 + 2 * head}`, `HB${head}`, 'RDB', MODELS.signal, `head ${head}, steering`)
      .r(`R${1 + head}`, 'P5', `SEL${head}`, 4700).q(`Q${1 + head}`, `TAP${head}`, `SB${head}`, 'P12A', MODELS.pnp, `head ${head} select`).r(`R${3 + head}`, `SB${head}`, `SEL${head}O`, 4700)
      .r(`R${5 + head}`, `SB${head}`, 'P12A', 10e3).r(`R${7 + head}`, `HE${head}`, 'ERASE', 220, { role: 'erase current' });
  }
  s.chip('U1', '7406', { A1: 'SIDEN', Y1: 'SEL0O', A2: 'SIDE', Y2: 'SEL1O', A3: 'SIDE', Y3: 'SIDEN', A4: 'WGATE', Y4: 'ERASE', A5: 'MOTOR', Y5: 'MOTN', A6: 'WGATE', Y6: 'WRN' }, [40, 20], 'select, erase and motor drivers');
  s.region(60, 16, 6, 6)
    .r('R9', 'P5', 'SIDEN', 4700).r('R10', 'RDA', '0', 2200, { role: 'read load' }).r('R11', 'RDB', '0', 2200, { role: 'read load' })
    .c('C6', 'RDA', 'AIN', 1e-9, 'film', 63).c('C7', 'RDB', 'BIN', 1e-9, 'film', 63).r('R12', 'AIN', 'VREF', 10e3).r('R13', 'BIN', 'VREF', 10e3)
    .r('R14', 'P12A', 'VREF', 10e3).r('R15', 'VREF', '0', 10e3).electrolytic('C8', 'VREF', '0', 10, 16, 1.2, 'reference');
  s.device('U2', '4558', ['AO', 'AM', 'AIN', '0', 'BIN', 'BM', 'BO', 'P12A'], [80, 40], 'read amplifier');
  s.region(90, 30, 6, 6).r('R16', 'AO', 'AM', 47e3).r('R17', 'AM', 'GAIN', 1e3).r('R18', 'BO', 'BM', 47e3).r('R19', 'BM', 'GAIN', 1e3).r('R20', 'GAIN', 'VREF', 470, { role: 'gain trimmer, as marked' })
    .electrolytic('C9', 'AO', 'CPA', 4.7, 25, 2.2, 'coupling').electrolytic('C10', 'BO', 'CPB', 4.7, 25, 2.2, 'coupling').r('R21', 'CPA', 'CREF', 10e3).r('R22', 'CPB', 'CREF', 10e3)
    .r('R23', 'P5', 'CREF', 4700).r('R24', 'CREF', '0', 4700).r('R25', 'CPA', 'P5', 1e6);
  s.device('U3', '393', ['RDATA', 'CPB', 'CPA', '0', 'TIN', 'TREF', 'TRK0', 'P5'], [110, 40], 'pulse comparator and home comparator');
  s.region(112, 56, 5, 6).r('R26', 'P5', 'RDATA', 2200).r('R27', 'P5', 'TRK0', 4700);
  // Home sensor: output low with light through, high when the flag blocks it.
  s.region(100, 70, 6, 6).r('R28', 'P5', 'EMA', 180, { role: 'home sensor lamp resistor' }).opto('O1', 'EMA', '0', 'TIN', '0', 0.12, 'home sensor').r('R29', 'P5', 'TIN', 10e3, { role: 'home sensor load' })
    .r('R30', 'P5', 'TREF', 10e3).r('R31', 'TREF', '0', 10e3).c('C11', 'TIN', '0', 1e-9);
  // Stepper and spindle.
  s.chip('U4', 'DARLINGTON7', { A1: 'STA', A2: 'STB', A3: 'STC', A4: 'STD', A5: 'MOTP', A6: '0', A7: '0', Y1: 'PHA', Y2: 'PHB', Y3: 'PHC', Y4: 'PHD', Y5: 'SPIND' }, [40, 80], 'stepper and spindle driver', 'P12');
  s.region(60, 76, 6, 6);
  ['A', 'B', 'C', 'D'].forEach((phase, i) => s.winding(`M1.${i + 1}`, 'P12', `PH${phase}`, 30e-3, 75, `load stepper phase ${phase}`));
  s.winding('M2', 'P12', 'SPIND', 20e-3, 45, 'load spindle motor').r('R32', 'P5', 'MOTN', 4700);
  s.chip('U5', '74LS139', { G1: 'P5', A1: '0', B1: '0', G2: '0', A2: 'STEPA', B2: 'STEPB', Y02: 'NA', Y12: 'NB', Y22: 'NC', Y32: 'ND' }, [20, 80], 'phase decoder');
  s.chip('U6', '74LS04', { A1: 'NA', Y1: 'STA', A2: 'NB', Y2: 'STB', A3: 'NC', Y3: 'STC', A4: 'ND', Y4: 'STD', A5: 'MOTN', Y5: 'MOTP', A6: '0' }, [6, 80], 'phase and motor inverters');
  s.supply('V3', 'SIDE', 0).supply('V4', 'WGATE', 0).supply('V5', 'MOTOR', 3.8).supply('V6', 'STEPA', 0.2).supply('V7', 'STEPB', 3.8);
  s.edge('RDATA', 'goes to the interface board').edge('TRK0', 'goes to the interface board');
  s.setup({ name: 'at-home', blocked: ['O1'] });
  s.see('spindle-turns', 'the spindle turns', [{ type: 'volts', at: 'P12', to: 'SPIND', least: 8 }]).see('head-selected', 'the selected head has its voltage', [{ type: 'volts', at: 'TAP0', least: 9 }])
    .see('home-seen', 'the home signal comes when the flag blocks the sensor', [{ type: 'level', at: 'TRK0', is: ['1'] }], 'at-home').see('away-seen', 'away from home the home signal is low', [{ type: 'level', at: 'TRK0', is: ['0'] }])
    .see('phase-energised', 'one stepper phase holds', [{ type: 'volts', at: 'P12', to: 'PHC', least: 8 }]);
  s.test('P5', '5 V').test('P12', '12 V').test('VREF', 'reference').test('TIN', 'home sensor');
  return s.done();
}
