import type { Board } from '@hanzai/core/board';
import { MODELS, Sheet } from './sheet';

/**
 * TL9-CAP, the capstan board of the Brackwater TL-9 tape-loop programmer: motor servo with
 * tachometer, reference, muting relay. Invented.
 */
// prettier-ignore
export function tl9Capstan(): Board {
  const s = new Sheet('TL9-CAP, capstan board of the Brackwater TL-9', 120, 90, 1986);
  s.supply('V1', 'SUP12', 12);
  s.region(6, 8, 6, 7).two('connectorPin', 'J1.1', 'SUP12', 'P12IN', { role: '12 V in' }).two('fuse', 'F1', 'P12IN', 'P12', { rating: 'T500mA', role: 'motor fuse' }).electrolytic('C1', 'P12', '0', 220, 16, 0.1, 'motor bulk').c('C2', 'P12', '0', 100e-9)
    .r('R1', 'P12', 'V9Z', 150, { role: 'reference feed' }).d('D1', '0', 'V9Z', MODELS.zener(6.2), 'reference zener').electrolytic('C3', 'V9Z', '0', 47, 16, 0.4, 'reference').r('R2', 'V9Z', 'SET', 10e3, { tolerance: 0.01 }).r('R3', 'SET', 'SETL', 4700, { role: 'speed trimmer, as marked' }).r('R4', 'SETL', '0', 4700, { tolerance: 0.01 }).electrolytic('C4', 'SET', '0', 10, 16, 1.2, 'set point');
  // Tachometer: a winding whose back-EMF is the speed, rectified and smoothed.
  s.region(60, 8, 6, 7).winding('G1', 'TA', 'TB', 40e-3, 140, 'tachometer').r('R5', 'TB', '0', 10).d('D2', 'TA', 'TDC', MODELS.signal, 'tachometer rectifier').r('R6', 'TDC', 'TS', 4700).electrolytic('C5', 'TS', '0', 4.7, 25, 2.4, 'tachometer smoothing').r('R7', 'TS', '0', 47e3).r('R8', 'TA', '0', 22e3);
  s.device('U1', '358', ['ERR', 'ERM', 'SET', '0', 'TS', 'TBF', 'TBF', 'P12'], [40, 40], 'servo amplifier and tachometer buffer');
  s.region(50, 34, 6, 6).r('R9', 'TBF', 'ERM', 22e3, { role: 'tachometer gain' }).r('R10', 'ERM', 'ERR', 220e3, { role: 'loop gain' }).c('C6', 'ERM', 'ERR', 100e-9, 'film', 63).c('C7', 'ERR', 'LEAD', 1e-6, 'bipolar', 25, { esrOhm: 1.5, fitYear: 1986, role: 'loop lead' }).r('R11', 'LEAD', 'ERM', 47e3)
    .r('R12', 'ERR', 'QB', 2200, { role: 'driver base' }).r('R13', 'QB', '0', 10e3);
  s.region(90, 30, 4, 7).q('Q1', 'P12', 'QB', 'QE', MODELS.npn, 'motor pre-driver').q('Q2', 'P12', 'QE', 'MOT', MODELS.npnPower, 'motor driver').r('R14', 'QE', 'MOT', 470).d('D3', '0', 'MOT', MODELS.power, 'flyback').winding('M1', 'MOT', 'MS', 8e-3, 24, 'load capstan motor').r('R15', 'MS', '0', 0.47, { role: 'motor current sense' }).c('C8', 'MOT', '0', 100e-9).electrolytic('C9', 'MOT', '0', 10, 25, 1, 'motor smoothing');
  // Muting: the relay opens once the speed is right.
  s.device('U2', '393', ['MUTEN', 'MREF', 'TS', '0', 'MS', 'STREF', 'STALL', 'P12'], [40, 66], 'speed and stall comparators');
  s.region(52, 60, 6, 6).r('R16', 'V9Z', 'MREF', 22e3).r('R17', 'MREF', '0', 10e3).r('R18', 'P12', 'MUTEN', 4700).r('R19', 'MUTEN', 'MB', 10e3).q('Q3', 'KC', 'MB', '0', MODELS.npn, 'relay driver').r('R20', 'MB', '0', 22e3).relay('K1', ['P12', 'KC', 'AUD', 'AUDM', 'AUDO'], 320, 7.5, 'muting relay').d('D4', 'KC', 'P12', MODELS.signal, 'relay flyback')
    .r('R21', 'V9Z', 'STREF', 100e3).r('R22', 'STREF', '0', 1500).r('R23', 'P12', 'STALL', 10e3).r('R24', 'STALL', 'STB', 10e3).q('Q4', 'STL', 'STB', '0', MODELS.npn, 'stall lamp driver').r('R25', 'P12', 'STA', 1e3).d('D5', 'STA', 'STL', MODELS.lamp, 'stall lamp').r('R26', 'STB', '0', 22e3);
  s.region(10, 60, 4, 6).r('R27', 'AUD', '0', 47e3).r('R28', 'AUDM', '0', 47e3).r('R29', 'AUDO', '0', 47e3).electrolytic('C10', 'AUD', 'AUDC', 10, 25, 1.1, 'audio coupling').r('R30', 'AUDC', '0', 100e3).c('C11', 'V9Z', '0', 100e-9).c('C12', 'P12', '0', 100e-9).r('R31', 'P12', 'PL', 1500).d('D6', 'PL', '0', MODELS.lamp, 'power lamp');
  s.edge('AUDC', 'from the replay amplifier');
  // Held still, and turning at its speed: the tachometer gives as much as it asks for.
  s.setup({ name: 'running', turning: { G1: 3.78, M1: 1.6 } });
  s.see('motor-turns', 'the capstan turns', [{ type: 'volts', at: 'MOT', to: 'MS', least: 2.5 }]).see('steady', 'at speed the drive settles between its ends', [{ type: 'volts', at: 'ERR', least: 3, most: 9.5 }], 'running')
    .see('relay-pulls', 'the muting relay pulls in at speed', [{ type: 'volts', at: 'P12', to: 'KC', least: 7.5 }], 'running').see('lamp-lit', 'the power lamp is lit', [{ type: 'ampere', ref: 'D6', least: 2e-3 }]).see('stall-lamp', 'the stall lamp is lit', [{ type: 'ampere', ref: 'D5', least: 2e-3 }]);
  s.test('P12', '12 V').test('V9Z', 'reference').test('TS', 'tachometer').test('ERR', 'drive');
  s.hazard('spring', 'the pinch roller closes with force');
  return s.done();
}
