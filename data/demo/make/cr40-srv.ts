import type { Board } from '@hanzai/core/board';
import { MODELS, Sheet } from './sheet';

/**
 * CR40-SRV, the whole servo board of the Pellwyn CR-40 card-disc reader: supply entry, spindle and
 * sled drivers, focus and tracking loops, laser supply, controller lines. Invented.
 */
// prettier-ignore
export function cr40Servo(): Board {
  const s = new Sheet('CR40-SRV, servo board of the Pellwyn CR-40', 160, 110, 1991);
  s.supply('V1', 'SUP9', 9).supply('V2', 'SUP5', 5);
  s.region(6, 8, 6, 7)
    .two('connectorPin', 'J1.1', 'SUP9', 'P9IN', { role: 'motor supply in' }).two('connectorPin', 'J1.2', 'SUP5', 'P5', { role: 'logic supply in' }).two('fuse', 'F1', 'P9IN', 'P9F', { rating: 'T1A', role: 'motor supply fuse' })
    .l('L1', 'P9F', 'VM', 47e-6, 0.35, { role: 'motor supply choke', fitYear: 1991 }).electrolytic('C1', 'VM', '0', 470, 16, 0.06, 'motor bulk').electrolytic('C3', 'VM', '0', 47, 16, 0.35, 'motor bulk').c('C2', 'VM', '0', 100e-9).c('C6', 'P9F', '0', 100e-9)
    .d('D2', '0', 'P9F', MODELS.power, 'reverse protection').d('D1', '0', 'VM', MODELS.zener(11), 'over-voltage clamp').r('R2', 'VM', '0', 4700, { role: 'motor rail bleeder' })
    .electrolytic('C4', 'P5', '0', 100, 10, 0.25, 'logic bulk').electrolytic('C5', 'P5', '0', 47, 10, 0.4, 'logic, far corner').c('C7', 'P5', '0', 100e-9).l('L2', 'P5', 'P5A', 22e-6, 0.5, { role: 'analogue supply choke' }).electrolytic('C8', 'P5A', '0', 47, 10, 0.4, 'analogue supply').c('C9', 'P5A', '0', 100e-9)
    .r('R1', 'P5A', 'VREF', 1e3, { role: 'reference divider' }).r('R3', 'VREF', '0', 1e3, { role: 'reference divider' }).electrolytic('C10', 'VREF', '0', 100, 10, 0.25, 'reference');
  // Lid interlock and driver supply.
  s.region(6, 40, 5, 7).toggle('S1', 'P5', 'LID', 'closed', 'lid switch, closed with the lid').r('R10', 'LID', '0', 10e3).r('R11', 'LID', 'B1', 2200).q('Q1', 'C1N', 'B1', '0', MODELS.npn, 'lid interlock').r('R12', 'B1', '0', 22e3)
    .r('R13', 'C1N', 'B2', 220).r('R14', 'VM', 'B2', 2200).q('Q2', 'VDRV', 'B2', 'VM', MODELS.pnpPower, 'driver supply switch').electrolytic('C11', 'VDRV', '0', 47, 16, 0.35, 'driver supply').c('C12', 'VDRV', '0', 100e-9).r('R15', 'VDRV', '0', 10e3)
    .r('R16', 'P5', 'TRAY', 4700).toggle('S2', 'TRAY', '0', 'open', 'tray-in switch').r('R17', 'P5', 'LIMIT', 4700).toggle('S3', 'LIMIT', '0', 'closed', 'inner limit switch, closed at the hub').r('R18', 'P5', 'EJECT', 4700).toggle('S4', 'EJECT', '0', 'open', 'eject button')
    .c('C13', 'TRAY', '0', 10e-9).c('C14', 'LIMIT', '0', 10e-9).c('C15', 'EJECT', '0', 10e-9);
  // Photo detector: six elements give current, a quad amplifier turns it into volts.
  const segments = ['A', 'B', 'C', 'D'] as const;
  segments.forEach((segment, i) => {
    s.region(60 + 10 * i, 8, 2, 5).supplyCurrent(`I${i + 1}`, 'P5A', `PD${segment}`, 6e-6).r(`R${20 + i}`, `PD${segment}`, `PA${segment}`, 47e3, { role: `detector ${segment}, gain` }).c(`C${20 + i}`, `PD${segment}`, `PA${segment}`, 10e-12);
  });
  s.device('U1', '324', ['PAA', 'PDA', 'VREF', 'P5A', 'VREF', 'PDB', 'PAB', 'PAC', 'PDC', 'VREF', '0', 'VREF', 'PDD', 'PAD'], [80, 24], 'detector amplifier');
  s.device('U2', '4558', ['FER', 'FEM', 'FEP', '0', 'TEP', 'TEM', 'TER', 'VM'], [104, 24], 'focus and tracking error');
  s.region(66, 32, 6, 6)
    .r('R30', 'PAA', 'FEP', 22e3, { tolerance: 0.01 }).r('R31', 'PAC', 'FEP', 22e3, { tolerance: 0.01 }).r('R32', 'PAB', 'FEM', 22e3, { tolerance: 0.01 }).r('R33', 'PAD', 'FEM', 22e3, { tolerance: 0.01 }).r('R34', 'FEP', 'VREF', 100e3, { tolerance: 0.01 }).r('R35', 'FEM', 'FER', 100e3, { tolerance: 0.01 })
    .r('R36', 'PAA', 'TEP', 22e3, { tolerance: 0.01 }).r('R37', 'PAB', 'TEP', 22e3, { tolerance: 0.01 }).r('R38', 'PAC', 'TEM', 22e3, { tolerance: 0.01 }).r('R39', 'PAD', 'TEM', 22e3, { tolerance: 0.01 }).r('R40', 'TEP', 'VREF', 100e3, { tolerance: 0.01 }).r('R41', 'TEM', 'TER', 100e3, { tolerance: 0.01 })
    .c('C30', 'FEM', 'FER', 220e-12).c('C31', 'TEM', 'TER', 220e-12);
  // Loop filters: coupling capacitors in the servo path, two of them bipolar.
  s.region(108, 32, 6, 6)
    .c('C32', 'FER', 'FCP', 4.7e-6, 'bipolar', 25, { esrOhm: 1.6, fitYear: 1991, role: 'focus coupling, bipolar' }).c('C33', 'TER', 'TCP', 4.7e-6, 'bipolar', 25, { esrOhm: 1.6, fitYear: 1991, role: 'tracking coupling, bipolar' })
    .r('R42', 'FCP', 'FIN', 4700).r('R43', 'TCP', 'TIN', 4700).r('R44', 'FIN', 'VREF', 47e3).r('R45', 'TIN', 'VREF', 47e3).c('C34', 'FIN', 'VREF', 10e-9).c('C35', 'TIN', 'VREF', 10e-9)
    .electrolytic('C36', 'FER', 'FMON', 1, 50, 3.5, 'focus monitor').electrolytic('C37', 'TER', 'TMON', 1, 50, 3.5, 'tracking monitor').r('R46', 'FMON', '0', 100e3).r('R47', 'TMON', '0', 100e3)
    .r('R48', 'FIN', 'GND0', 1e6, { role: 'focus gain trimmer, as marked' }).two('link', 'W1', 'GND0', '0');
  s.device('U3', 'POWERAMP2', ['FCA', 'FCM', 'FIN', '0', 'TIN', 'TCM', 'TCA', 'VDRV'], [60, 60], 'focus and tracking coil driver');
  s.region(70, 56, 6, 6).r('R50', 'FCA', 'FCM', 22e3).r('R51', 'FCM', 'VREF', 10e3).r('R52', 'TCA', 'TCM', 22e3).r('R53', 'TCM', 'VREF', 10e3)
    .r('RN1.1', 'FCA', 'FC1', 33, { role: 'focus coil series, array' }).r('RN1.2', 'FCA', 'FC1', 33, { role: 'focus coil series, array' }).r('RN1.3', 'TCA', 'TC1', 33, { role: 'tracking coil series, array' }).r('RN1.4', 'TCA', 'TC1', 33, { role: 'tracking coil series, array' })
    .winding('HD1', 'FC1', 'VREF2', 40e-6, 8, 'load focus coil').winding('HD2', 'TC1', 'VREF2', 30e-6, 7, 'load tracking coil');
  // Spindle and sled.
  s.device('U4', 'POWERAMP2', ['SPA', 'SPM', 'SPIN', '0', 'SLIN', 'SLM', 'SLA', 'VDRV'], [104, 60], 'spindle and sled driver');
  s.region(112, 54, 6, 6)
    .supply('V3', 'SPC', 3.2).supply('V4', 'SLC', 2.5).r('RN2.1', 'SPC', 'SPX', 33, { role: 'controller line, array' }).r('RN2.2', 'SLC', 'SLX', 33, { role: 'controller line, array' }).r('R54', 'SPX', 'SPIN', 10e3).r('R55', 'SLX', 'SLIN', 10e3)
    .electrolytic('C40', 'SPIN', '0', 10, 16, 1.2, 'spindle smoothing').electrolytic('C41', 'SLIN', '0', 10, 16, 1.2, 'sled smoothing').r('R56', 'SPA', 'SPM', 20e3).r('R57', 'SPM', 'VREF', 20e3).r('R58', 'SLA', 'SLM', 33e3).r('R59', 'SLM', 'VREF', 10e3)
    .winding('M1', 'SPA', 'SPS', 4e-3, 18, 'load spindle motor').r('R60', 'SPS', 'VREF2', 1, { role: 'spindle current sense' }).winding('M2', 'SLA', 'VREF2', 6e-3, 24, 'load sled and tray motor')
    .electrolytic('C42', 'SPA', '0', 22, 16, 0.8, 'spindle').electrolytic('C43', 'VREF2', '0', 100, 10, 0.25, 'driver reference').q('Q4', 'VDRV', 'VR2B', 'VREF2', MODELS.npnPower, 'driver reference, up').q('Q5', '0', 'VR2D', 'VREF2', MODELS.pnpPower, 'driver reference, down')
    .r('R61', 'MIRM', 'VR2B', 100).r('R62', 'MIRM', 'VR2D', 100).r('R63', 'VREF2', '0', 470);
  // Laser supply: the trimmer sets the current, the monitor diode closes the loop.
  s.region(6, 80, 6, 6)
    .q('Q3', 'LDA', 'LB', 'P5A', MODELS.pnpPower, 'laser supply').r('R70', 'P5A', 'LB', 220).r('R71', 'LB', 'LCT', 1e3).d('D5', 'LDA', 'LDS', { ...MODELS.lamp, name: 'DLASER', emissionCoefficient: 2, saturationCurrentAmpere: 1e-18 }, 'laser of the pickup').r('R72', 'LDS', '0', 10, { role: 'laser current sense' })
    .electrolytic('C50', 'LDA', '0', 33, 10, 0.7, 'laser smoothing').c('C51', 'LDA', '0', 100e-9).r('R73', 'P5A', 'LREF', 10e3).r('R74', 'LREF', '0', 1e3).r('R75', 'LDS', 'LFB', 1e3).r('R76', 'LFB', '0', 1830, { role: 'laser power trimmer, as marked' }).electrolytic('C52', 'LREF', '0', 10, 16, 1.2, 'laser reference').c('C53', 'LFB', '0', 10e-9);
  s.device('U5', '358', ['LERR', 'LREF', 'LFB', '0', 'VREF', 'MIRM', 'MIRM', 'P5A'], [44, 84], 'laser loop').region(52, 80, 6, 6).r('R77', 'LERR', 'LCT', 100).supply('V5', 'LDON', 3.8).r('R78', 'LDON', 'LGB', 10e3).q('Q6', 'LREFX', 'LGB', '0', MODELS.npn, 'laser on').r('R79', 'LREFX', 'P5A', 10e3);
  // Controller lines.
  s.device('U6', '74HC14', ['TRAY', 'TRAYN', 'LIMIT', 'LIMITN', 'EJECT', 'EJECTN', '0', 'MTEN', 'MTE', 'SENS', 'LFX', 'LIDN', 'LID', 'P5'], [90, 88], 'switch inverters');
  s.region(100, 82, 6, 6);
  ['TRAYN', 'LIMITN', 'EJECTN', 'LIDN'].forEach((net, i) => s.r(`RN3.${i + 1}`, net, `K${net}`, 33, { role: 'controller line, array' }).c(`C${60 + i}`, `K${net}`, '0', 100e-12).edge(`K${net}`, 'goes to the controller'));
  s.region(60, 96, 8, 6).r('R80', 'MTE', 'P5', 10e3).r('R81', 'LFX', 'P5', 10e3).c('C72', 'P5', '0', 100e-9).c('C73', 'P5', '0', 100e-9).electrolytic('C66', 'P5', '0', 22, 10, 0.8, 'logic').r('R82', 'P5', 'LAMP', 330).d('D6', 'LAMP', '0', MODELS.lamp, 'power lamp').electrolytic('C67', 'VM', '0', 22, 16, 0.8, 'motor, far corner')
    .electrolytic('C68', 'VDRV', '0', 22, 16, 0.8, 'sled driver').electrolytic('C69', 'VREF', '0', 22, 10, 0.8, 'reference, far corner').c('C70', 'VREF', '0', 100e-9).c('C71', 'VDRV', '0', 100e-9);
  s.see('disc-turns', 'the disc turns when the lid is closed', [{ type: 'volts', at: 'SPA', to: 'VREF2', least: 0.8, magnitude: true }]).see('lamp-lit', 'the power lamp is lit', [{ type: 'ampere', ref: 'D6', least: 2e-3 }])
    .see('laser-on', 'the laser takes its current (read at the sense resistor, never by eye)', [{ type: 'ampere', ref: 'D5', least: 5e-3, most: 160e-3 }]).see('driver-supply', 'the driver chips have their supply', [{ type: 'volts', at: 'VDRV', least: 6, most: 9.5 }])
    .see('focus-centred', 'the focus coil rests at its centre', [{ type: 'volts', at: 'FC1', to: 'VREF2', most: 0.4, magnitude: true }]).see('tracking-centred', 'the tracking coil rests at its centre', [{ type: 'volts', at: 'TC1', to: 'VREF2', most: 0.4, magnitude: true }]);
  s.test('VM', 'motor rail').test('VDRV', 'driver supply').test('VREF', 'reference').test('P5', '5 V').test('FER', 'focus error').test('LDS', 'laser sense');
  s.hazard('laser', 'invisible beam: never look along the axis; the lid switch is not a protection', 'D5').hazard('static', 'short the laser flex before it is unplugged', 'D5');
  return s.done();
}
