/** A lot of the invented workshop's stock, without its id. */
export interface DemoLot {
  readonly text: string;
  readonly bin: string;
  readonly supplier: string;
  readonly price: number | null;
  readonly boughtOn: string | null;
  readonly quantity: number;
  readonly minimum: number;
  readonly donor: string;
  readonly note: string;
}

const bag = (text: string, quantity: number, bin: string, supplier: string, price: number, boughtOn: string, minimum = 0): DemoLot => ({
  text, quantity, bin, supplier, price, boughtOn, minimum, donor: '', note: '',
}); // prettier-ignore
const donor = (text: string, unit: string, note: string): DemoLot => ({
  text, quantity: 1, bin: 'donor shelf', supplier: '', price: null, boughtOn: null, minimum: 0, donor: unit, note,
}); // prettier-ignore

/** Stock of the Loom Hall with its gaps, and what is left in two donors. Sellers are invented. */
export const DEMO_STOCK: readonly DemoLot[] = [
  bag(
    '47u 25V electrolytic 105C esr=0.35 h=11 d=6.3 pitch=2.5',
    12,
    'A1',
    'Tarn & Fell',
    0.28,
    '2025-03-04',
    6,
  ),
  bag(
    '10u 35V electrolytic 105C esr=1.1 h=11 d=5 pitch=2',
    4,
    'A1',
    'Tarn & Fell',
    0.22,
    '2025-03-04',
    6,
  ),
  bag(
    '470u 16V electrolytic 105C esr=0.09 h=12 d=10 pitch=5',
    3,
    'A2',
    'Tarn & Fell',
    0.6,
    '2024-11-19',
  ),
  bag('100u 16V electrolytic 85C', 0, 'A2', 'Tarn & Fell', 0.31, '2019-05-02', 4),
  bag('220u 10V electrolytic 85C', 5, 'A2', 'Corrie Parts', 0.4, '2017-02-11'),
  bag('10u 16V tantalum', 6, 'A3', 'Corrie Parts', 0.9, '2022-06-30'),
  bag('4u7 35V bipolar', 2, 'A3', 'Corrie Parts', 0.7, '2025-08-21', 2),
  bag('100n 50V ceramic X7R', 60, 'A4', 'Tarn & Fell', 0.05, '2024-01-15', 20),
  bag('100n 275VAC X2', 3, 'A5', 'Corrie Parts', 0.8, '2025-01-20', 2),
  bag('33R x4 isolated 5%', 1, 'B1', 'Corrie Parts', 1.6, '2023-10-02', 2),
  bag('T1A 250V breaking=35A', 8, 'B2', 'Tarn & Fell', 0.35, '2024-04-04', 5),
  bag('T315mAL 250V', 2, 'B2', 'Tarn & Fell', 0.35, '2024-04-04', 4),
  bag('74LS86', 2, 'C1', 'Corrie Parts', 1.4, '2021-09-14', 2),
  bag('74HCT86', 5, 'C1', 'Tarn & Fell', 0.6, '2025-02-01'),
  bag('74LS14', 1, 'C1', 'Corrie Parts', 1.5, '2021-09-14', 2),
  bag('7406', 3, 'C1', 'Corrie Parts', 1.9, '2022-03-08'),
  bag('7805 1A', 4, 'C2', 'Tarn & Fell', 0.7, '2024-04-04', 2),
  bag('belt 72mm 1.2mm square', 1, 'D1', 'Corrie Parts', 3.2, '2025-05-05', 2),
  donor('74LS86', 'PD-3, serial 0077, given up', 'worked until the heads went'),
  donor('opto AKEC', 'PD-3, serial 0077, given up', 'home sensor, tested with light'),
  donor('33R x4 isolated', 'CR-40 without its tray', 'not tested'),
];
