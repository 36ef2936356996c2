import type { Board } from '@hanzai/core/board';
import { MODELS, Sheet } from './sheet';

/**
 * YC2-DRV, the drive board of the Brackwater YC-2 yarn-carriage drive: mains transformer, 5 V and
 * 12 V regulators, step sequencer, four phases, limit switches. Invented.
 */
// prettier-ignore
export function yc2Drive(): Board {
  const s = new Sheet('YC2-DRV, drive board of the Brackwater YC-2', 180, 120, 1989);
  // Mains side. The winding is modelled with its peak as direct voltage: volts after the bridge are
  // those under light load.
  s.region(6, 10, 5, 8)
    .two('connectorPin', 'J1.1', 'LIVE', 'LIVEF', { role: 'mains in' }).two('fuse', 'F1', 'LIVEF', 'PRI', { rating: 'T315mA 250V', role: 'mains fuse' })
    .c('C1', 'LIVEF', 'NEUT', 100e-9, 'film', 275, { role: 'line filter, paper' }).r('R1', 'LIVEF', 'NEUT', 1e6, { role: 'line filter bleeder' }).two('connectorPin', 'J1.2', 'NEUT', 'NEUTP', { role: 'mains in' })
    .transformer('T1', ['PRI', 'NEUTP', 'SECA', 'SECB'], 180, 0.9, 19.5, 'mains transformer').two('fuse', 'F2', 'SECA', 'ACA', { rating: 'T1.6A', role: 'secondary fuse' });
  s.region(60, 10, 6, 7)
    .d('D1', 'ACA', 'VRAW', MODELS.power, 'bridge').d('D2', 'SECB', 'VRAW', MODELS.power, 'bridge').d('D3', '0', 'ACA', MODELS.power, 'bridge').d('D4', '0', 'SECB', MODELS.power, 'bridge')
    .electrolytic('C2', 'VRAW', '0', 2200, 35, 0.04, 'reservoir').c('C3', 'VRAW', '0', 100e-9).r('R2', 'VRAW', '0', 2200, { role: 'reservoir bleeder' });
  s.device('U1', '7812', ['VRAW', '0', 'P12'], [110, 12], '12 V regulator').device('U2', '7805', ['P12', '0', 'P5'], [130, 12], '5 V regulator');
  s.region(112, 24, 6, 7).electrolytic('C4', 'P12', '0', 100, 16, 0.2, '12 V output').c('C5', 'P12', '0', 100e-9).electrolytic('C6', 'P12', '0', 100, 16, 0.2, '12 V, far corner').electrolytic('C7', 'P5', '0', 47, 10, 0.4, '5 V output')
    .c('C8', 'P5', '0', 100e-9).electrolytic('C9', 'P5', '0', 22, 10, 0.8, '5 V, far corner').d('D5', 'P5', 'P12', MODELS.power, 'regulator protection').d('D6', 'P12', 'VRAW', MODELS.power, 'regulator protection')
    .r('R3', 'P12', 'LMP', 1500).d('D7', 'LMP', '0', MODELS.lamp, 'power lamp');
  // Clock and sequencer.
  s.device('U3', '74LS14', ['STEPIN', 'STN', 'STN', 'STEP', 'DIRIN', 'DIRN', '0', 'DIR', 'DIRN', 'LIMLN', 'LIML', 'LIMRN', 'LIMR', 'P5'], [20, 50], 'input Schmitt inverters');
  s.region(6, 40, 4, 6).r('R4', 'P5', 'STEPIN', 4700, { role: 'step input pull-up' }).r('R5', 'P5', 'DIRIN', 4700, { role: 'direction input pull-up' }).c('C10', 'STEPIN', '0', 1e-9).c('C11', 'DIRIN', '0', 1e-9)
    .r('R6', 'P5', 'LIML', 2200, { role: 'left limit pull-up' }).r('R7', 'P5', 'LIMR', 2200, { role: 'right limit pull-up' }).toggle('S1', 'LIML', '0', 'open', 'left limit switch').toggle('S2', 'LIMR', '0', 'open', 'right limit switch')
    .c('C12', 'LIML', '0', 10e-9).c('C13', 'LIMR', '0', 10e-9);
  s.edge('STEPIN', 'from the knitting controller').edge('DIRIN', 'from the knitting controller');
  s.device('U4', '74LS08', ['LIMLB', 'DIR', 'GOL', 'LIMRB', 'DIRN', 'GOR', '0', 'NC1', 'P5', 'P5', 'NC2', 'P5', 'P5', 'P5'], [40, 50], 'limit gates');
  s.device('U5', '74LS32', ['GOL', 'GOR', 'GO', 'GO', 'P5', 'NC3', '0', 'NC4', 'P5', 'P5', 'NC5', 'P5', 'P5', 'P5'], [60, 50], 'run gate');
  s.device('U6', '74LS04', ['LIMLN', 'LIMLB', 'LIMRN', 'LIMRB', 'RESN', 'RES', '0', 'NC6', '0', 'NC7', '0', 'NC8', '0', 'P5'], [80, 50], 'inverters');
  s.region(80, 62, 4, 6).r('R8', 'P5', 'RESN', 22e3, { role: 'reset time' }).electrolytic('C14', 'RESN', '0', 4.7, 16, 2.5, 'reset time').d('D8', 'RESN', 'P5', MODELS.signal);
  s.chip('U7', '74LS191', { A: '0', B: '0', C: '0', D: '0', CTEN: 'CTEN', DU: 'DIRN', LOAD: 'LOADN', CK: 'STEP', QA: 'QA', QB: 'QB' }, [100, 50], 'phase counter');
  s.supply('V2', 'IDLE', 0.2).two('connectorPin', 'J2.1', 'IDLE', 'LOADN', { role: 'controller holds phase 0 while idle' }).r('R9', 'P5', 'LOADN', 4700).c('C15', 'LOADN', '0', 100e-9).r('R10', 'CTEN', '0', 470);
  s.chip('U8', '74LS139', { G1: 'ENN', A1: 'QA', B1: 'QB', Y01: 'N0', Y11: 'N1', Y21: 'N2', Y31: 'N3', G2: 'P5', A2: '0', B2: '0' }, [120, 50], 'phase decoder');
  s.r('R11', 'ENN', '0', 470, { role: 'phase enable' });
  // Four phases: a decoder line pulls a PNP, that feeds a power NPN.
  ['0', '1', '2', '3'].forEach((phase, i) => {
    s.region(10 + 42 * i, 76, 5, 6)
      .r(`R${20 + i}`, `N${phase}`, `PB${phase}`, 3300, { role: `phase ${phase} base` }).r(`R${30 + i}`, 'P5', `PB${phase}`, 10e3, { role: `phase ${phase} hold-off` })
      .q(`Q${1 + i}`, `PC${phase}`, `PB${phase}`, 'P5', MODELS.pnp, `phase ${phase} pre-driver`).r(`R${40 + i}`, `PC${phase}`, `NB${phase}`, 150, { role: `phase ${phase} drive` })
      .r(`R${50 + i}`, `NB${phase}`, '0', 1e3).q(`Q${5 + i}`, `PH${phase}`, `NB${phase}`, 'SENSE', MODELS.npnPower, `phase ${phase} driver`)
      .d(`D${10 + i}`, `PH${phase}`, 'VCLAMP', MODELS.power, `phase ${phase} flyback`).winding(`M1.${i + 1}`, 'VMOT', `PH${phase}`, 12e-3, 22, `load carriage motor phase ${phase}`);
  });
  s.region(20, 108, 6, 8).r('R60', 'SENSE', '0', 0.47, { role: 'phase current sense' }).r('R61', 'VRAW', 'VMOT', 10, { role: 'motor series resistor' }).electrolytic('C16', 'VMOT', '0', 220, 35, 0.1, 'motor bulk')
    .d('D15', 'VCLAMP', 'VZ', MODELS.zener(24), 'flyback clamp').r('R62', 'VZ', 'VMOT', 47).c('C17', 'SENSE', '0', 100e-9);
  s.see('carriage-holds', 'the carriage holds its place against the hand', [{ type: 'volts', at: 'VMOT', to: 'PH0', least: 5 }]).see('lamp-lit', 'the power lamp is lit', [{ type: 'ampere', ref: 'D7', least: 2e-3 }])
    .see('rails', 'both rails are there', [{ type: 'volts', at: 'P12', least: 11.4, most: 12.6 }, { type: 'volts', at: 'P5', least: 4.75, most: 5.25 }]).see('quiet', 'only one phase draws current', [{ type: 'ampere', ref: 'R60', least: 0.1, most: 0.8 }]);
  s.test('P12', '12 V').test('P5', '5 V').test('VRAW', 'raw').test('QA', 'phase count');
  s.hazard('mains', 'mains on this board up to T1: cover it, one hand, discharge C1 and measure', 'T1').hazard('stored-charge', 'line-filter capacitor keeps its charge after the plug is out; paper types crack and smoke with age', 'C1').hazard('stored-charge', 'reservoir, 2200 uF at 19 V', 'C2');
  return s.done();
}
