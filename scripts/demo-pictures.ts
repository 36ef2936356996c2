// npm run demo-pictures: draws the made-up pictures of the demo workshop into data/demo/pictures.
// Boards are drawn from their own sheets; nothing here is a photograph.
import { mkdirSync } from 'node:fs';
import sharp from 'sharp';
import { DEMO_BOARD_FILES, DEMO_SHEETS, demoBoard, demoSheet } from '@hanzai/data/demo';
import { partValue, type Board, type Part } from '@hanzai/core/board';

const folder = new URL('../data/demo/pictures/', import.meta.url);
mkdirSync(folder, { recursive: true });

const SCALE = 12;

/** A part as it looks from above, in px about its middle. */
function drawn(part: Part): string {
  switch (part.kind) {
    case 'capacitor':
      if (part.dielectric === 'electrolytic' || part.dielectric === 'bipolar') {
        const r = Math.min(48, 16 + 9 * Math.log10(part.capacitanceFarad / 1e-6 + 1) * 1.6);
        return `<circle r="${r}" fill="#23303f" stroke="#0e151d" stroke-width="3"/><path d="M ${-r * 0.7} ${-r * 0.7} A ${r} ${r} 0 0 0 ${-r * 0.7} ${r * 0.7} Z" fill="#c9ced6"/><circle r="${r * 0.62}" fill="#9aa3ad"/>`;
      }
      return `<ellipse rx="15" ry="9" fill="#c98b3c" stroke="#7d5118" stroke-width="2"/>`;
    case 'resistor':
      return `<path d="M-34 0H34" stroke="#c8c8c8" stroke-width="3"/><rect x="-20" y="-7" width="40" height="14" rx="6" fill="#d9c39a" stroke="#9b8558"/><path d="M-11 -7v14M-3 -7v14M5 -7v14" stroke="#6b3a1f" stroke-width="4"/>`;
    case 'diode':
      return `<path d="M-30 0H30" stroke="#c8c8c8" stroke-width="3"/><rect x="-16" y="-7" width="32" height="14" fill="#2a2a2a"/><rect x="9" y="-7" width="4" height="14" fill="#e4e4e4"/>`;
    case 'fuse':
      return `<rect x="-34" y="-10" width="68" height="20" rx="3" fill="#e9efe9" stroke="#8d948d"/><rect x="-34" y="-10" width="14" height="20" fill="#b9b9ad"/><rect x="20" y="-10" width="14" height="20" fill="#b9b9ad"/><path d="M-20 0H20" stroke="#666" stroke-width="1.5"/>`;
    case 'inductor':
    case 'winding':
      return `<circle r="22" fill="none" stroke="#a65f32" stroke-width="14" stroke-dasharray="5 2"/><circle r="13" fill="#1b1b1b"/>`;
    case 'transistor':
      return `<path d="M-16 10 A 18 18 0 1 1 16 10 Z" fill="#2b2b2b" stroke="#111"/>`;
    case 'chip':
    case 'amplifier': {
      const half = (part.pins.length / 4) * 15 + 4;
      const legs = Array.from({ length: part.pins.length / 2 }, (_, i) => -half + 10 + i * 15);
      return `${legs.map((x) => `<rect x="${x - 3}" y="-32" width="6" height="64" fill="#bfc4c8"/>`).join('')}<rect x="${-half}" y="-24" width="${2 * half}" height="48" rx="3" fill="#1f2226"/><circle cx="${-half + 10}" cy="12" r="4" fill="#3c4147"/>`;
    }
    case 'connectorPin':
      return `<rect x="-12" y="-12" width="24" height="24" fill="#efe9d8" stroke="#968f78"/><rect x="-4" y="-4" width="8" height="8" fill="#b5933c"/>`;
    case 'switch':
      return `<rect x="-26" y="-18" width="52" height="36" rx="3" fill="#8c2f28" stroke="#4f1713"/><rect x="-8" y="-10" width="16" height="20" fill="#f2efe6"/>`;
    default:
      return `<rect x="-18" y="-14" width="36" height="28" rx="2" fill="#3a3f46"/>`;
  }
}

type BoardName = keyof typeof DEMO_BOARD_FILES;

/** What is printed on a part: the number of a chip, the value of a can. */
function printed(part: Part): string {
  const text = (words: string, size: number, fill: string): string =>
    `<text y="${size / 3}" font-family="DejaVu Sans" font-size="${size}" fill="${fill}" text-anchor="middle">${words}</text>`;
  if (part.kind === 'chip' || part.kind === 'amplifier')
    return text(part.model.name, 22, '#e8e8e2');
  if (part.kind === 'capacitor' && part.dielectric === 'electrolytic')
    return text(partValue(part).split(' ')[0]!, 13, '#14202b');
  return '';
}

/** Board art from a sheet, with marks drawn over it. */
function boardArt(board: Board, marks: string, print = false): string {
  const [w, h] = [board.outlineMm!.width * SCALE, board.outlineMm!.height * SCALE];
  const placed = board.parts.filter(({ positionMm }) => positionMm);
  const at = ({ positionMm }: Part): [number, number] => [
    positionMm![0] * SCALE,
    positionMm![1] * SCALE,
  ];
  const byNet = new Map<string, Part[]>();
  for (const part of placed)
    for (const net of new Set(part.pins)) byNet.set(net, [...(byNet.get(net) ?? []), part]);
  const tracks = [...byNet.values()]
    .filter((parts) => parts.length < 9)
    .map((parts) => {
      const [first, ...rest] = parts;
      return rest
        .map(
          (part) =>
            `<path d="M${at(first!)[0]} ${at(first!)[1]} H${at(part)[0]} V${at(part)[1]}" fill="none" stroke="#3f8a4c" stroke-width="7"/>`,
        )
        .join('');
    });
  const parts = placed.map(
    (part) =>
      `<g transform="translate(${at(part).join(' ')})">${drawn(part)}${print ? printed(part) : ''}<text y="-34" font-family="DejaVu Sans Mono" font-size="17" fill="#e8efe6" text-anchor="middle">${part.ref}</text></g>`,
  );
  const holes = [
    [20, 20],
    [w - 20, 20],
    [20, h - 20],
    [w - 20, h - 20],
  ].map(
    ([x, y]) =>
      `<circle cx="${x}" cy="${y}" r="12" fill="#d9d4c4" stroke="#b58a3c" stroke-width="6"/>`,
  );
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${w}" height="${h}" viewBox="0 0 ${w} ${h}"><rect width="${w}" height="${h}" fill="#2c6b3c"/>${tracks.join('')}${holes.join('')}${parts.join('')}${marks}</svg>`;
}

/** A reader from above, lid on, with its screws. */
function readerFromAbove(): string {
  const screw = (x: number, y: number): string =>
    `<circle cx="${x}" cy="${y}" r="13" fill="#9d9a90" stroke="#55524a" stroke-width="3"/><path d="M${x - 8} ${y}H${x + 8}M${x} ${y - 8}V${y + 8}" stroke="#3f3c35" stroke-width="3"/>`;
  return `<svg xmlns="http://www.w3.org/2000/svg" width="1000" height="700"><rect width="1000" height="700" fill="#6f5b43"/><rect x="110" y="70" width="780" height="560" rx="18" fill="#d8d0bd" stroke="#8f8670" stroke-width="6"/><rect x="170" y="120" width="660" height="370" rx="10" fill="#cbc2ac" stroke="#a59c85" stroke-width="4"/><circle cx="500" cy="305" r="140" fill="none" stroke="#a59c85" stroke-width="5"/><rect x="300" y="540" width="400" height="40" rx="8" fill="#3b3a36"/><circle cx="800" cy="560" r="12" fill="#c9432f"/><path d="M640 150 q60 30 40 90" fill="none" stroke="#7b3d22" stroke-width="9" opacity=".55"/>${screw(150, 110)}${screw(850, 110)}${screw(150, 590)}<circle cx="850" cy="590" r="12" fill="#2b2620"/></svg>`;
}

const LEAK = `<ellipse cx="456" cy="176" rx="58" ry="44" fill="#c9b26b" opacity=".55"/><path d="M420 200 q20 70 6 120 q36 -40 44 -118 Z" fill="#c9b26b" opacity=".5"/><path d="M430 196 q10 30 4 60" stroke="#e9f0d2" stroke-width="6" fill="none" opacity=".7"/>`;
const CRUST = `<ellipse cx="1512" cy="288" rx="60" ry="38" fill="#7fc3a0" opacity=".6"/><path d="M1480 300 l20 14 l16 -10 l24 12" stroke="#dff5e6" stroke-width="6" fill="none"/>`;

for (const [name, svg] of [
  ['cr40-board', boardArt(demoBoard('cr40'), LEAK)],
  ['cr40-from-above', readerFromAbove()],
  ['yc2-board', boardArt(demoBoard('yc2Whole'), CRUST)],
] as const) {
  await sharp(Buffer.from(svg))
    .resize({ width: 1200 })
    .jpeg({ quality: 80 })
    .toFile(new URL(`${name}.jpg`, folder).pathname);
}

// Each board as it lies on the mat, for the sheet's second face: its corners are the outline's.
const faces: readonly (readonly [string, Board])[] = [
  ...(Object.keys(DEMO_BOARD_FILES) as BoardName[]).map((name) => [name, demoBoard(name)] as const),
  ...Object.entries(DEMO_SHEETS).map(([name, files]) => [name, demoSheet(files.at(-1)!)] as const),
];
for (const [name, board] of faces) {
  if (!board.outlineMm) continue;
  await sharp(Buffer.from(boardArt(board, '', true)))
    .resize({ width: 1800 })
    .jpeg({ quality: 76 })
    .toFile(new URL(`face-${name}.jpg`, folder).pathname);
}
