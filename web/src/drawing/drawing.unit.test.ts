import ELK from 'elkjs/lib/elk.bundled.js';
import { chipModel, LIBRARY } from '@hanzai/data';
import { DEMO_BOARD_FILES, demoBoard } from '@hanzai/data/demo';
import { indexBoard, nameKey, readSheetLines } from '@hanzai/core/board';
import { describe, expect, it } from 'vitest';
import { drawnRef, netsOf, type Drawn } from './drawn';
import { drawnParts } from './drawn-parts';
import { gatesOf } from './gates';
import { areasOf, otherAreas, type Area } from './areas';
import { busEntries, withBuses } from './buses';
import { layoutDrawing, type DrawingLayout, type PlacedPart } from './layout';
import { railsOf } from './rails';
import { SIZE } from './graph';
import { wantedOf } from './use-layout';

const NOTHING: ReadonlySet<string> = new Set();
const names = Object.keys(DEMO_BOARD_FILES) as Parameters<typeof demoBoard>[0][];
const indexOf = (text: string) => indexBoard(readSheetLines(text, LIBRARY).board);
const drawn = (text: string): readonly Drawn[] => drawnParts(indexOf(text), undefined, NOTHING);
const one = (text: string, ref: string): Drawn => drawn(text).find((part) => part.ref === ref)!;

describe('how a part is drawn', () => {
  const SUPPLY = 'V1 VCC 0 5V\nR8 VCC A 1k\nR9 VCC B 1k\nR7 VCC C 1k\n';
  it('hangs from its net to ground, the right way round', () => {
    expect(one(`${SUPPLY}D1 A 0 LED\nR1 A 0 1k`, 'D1')).toMatchObject({
      form: 'leg',
      net: 'A',
      turned: false,
      symbol: 'led',
    });
    expect(one(`${SUPPLY}D1 0 A 1N4148\nR1 A 0 1k`, 'D1')).toMatchObject({
      form: 'leg',
      net: 'A',
      turned: true,
      symbol: 'diode',
    });
  });
  it('stands on its net under a supply that many take on, and not under one of few', () => {
    expect(one(`${SUPPLY}R1 A 0 1k`, 'R8')).toMatchObject({ form: 'hat', net: 'A', end: 'VCC' });
    expect(one('V1 VCC 0 5V\nR8 VCC A 1k\nR1 A 0 1k', 'R8')).toMatchObject({
      form: 'across',
      nets: ['VCC', 'A'],
    });
  });
  it('is drawn before a supply that it feeds', () => {
    expect(one(`J1 SUP VCC\n${SUPPLY.replace('V1 VCC', 'V1 SUP')}R1 A 0 1k`, 'J1')).toMatchObject({
      form: 'across',
    });
  });
  it('has an open end where nothing else is on its net', () => {
    expect(one(`${SUPPLY}R1 A ? 1k\nR2 A 0 1k`, 'R1')).toMatchObject({
      form: 'leg',
      end: undefined,
    });
  });
  it.each([
    ['C1 A B 1u electrolytic', 'polarised'],
    ['C1 A B 1u film', 'capacitor'],
    ['D1 A B zener 5V6', 'zener'],
    ['S1 A B open', 'switchOpen'],
    ['S1 A B', 'switchClosed'],
    ['M1 A B 4m dcr=8', 'motor'],
    ['HD1 winding A B 4m dcr=8 role="read head, side 0"', 'head'],
    ['R77 A B 80 role="power lamp"', 'lamp'],
    ['R77 A B 80 role="lamp resistor"', 'resistor'],
    ['X1 box 1=A 2=B', 'crystal'],
    ['U3 box 1=A 2=B role="ceramic resonator"', 'crystal'],
    ['F1 A B T1A', 'fuse'],
    ['W1 A B', 'link'],
    ['U1 box 1=A 2=B', 'box'],
  ])('%s is a %s', (line, symbol) => {
    expect(one(`${SUPPLY}${line}`, line.split(' ')[0]!)).toMatchObject({ symbol });
  });
  it.each([
    ['K1 relay coil1=A coil2=0 common=B work=C', 'relay'],
    ['U7 7805 in=A ground=0 out=B', 'regulator'],
    ['T1 transformer p1=A p2=B s1=C s2=0', 'transformer'],
    ['O1 opto a=A k=0 c=B e=0', 'opto'],
    ['U9 box 1=A 2=B 3=C', undefined],
  ])('%s has %s within its box', (line, glyph) => {
    const found = one(`${SUPPLY}${line}`, line.split(' ')[0]!);
    expect(found).toMatchObject({ form: 'block', symbol: 'box' });
    expect(found.form === 'block' ? found.glyph : '').toBe(glyph);
  });
  it('draws gates by package where that is asked for', () => {
    const index = indexOf(`${SUPPLY}U1 74LS00 1=A 2=B 3=C 7=0 14=VCC\nR1 C 0 1k`);
    const chip = drawnParts(index, undefined, NOTHING, true).filter(({ ref }) => ref === 'U1');
    expect(chip).toMatchObject([{ symbol: 'box', value: '74LS00' }]);
  });
  it('draws a package of gates by those that are in use, others as a box', () => {
    const gates = drawn(`${SUPPLY}U1 74LS00 1=A 2=B 3=C 7=0 14=VCC\nR1 C 0 1k`).filter(
      ({ ref }) => ref === 'U1',
    );
    expect(gates).toMatchObject([
      { form: 'block', symbol: 'gate', gate: { sign: '&', inverted: true, output: 2 } },
    ]);
    expect(one(`${SUPPLY}U1 74LS74 2=A 3=B 5=C 7=0 14=VCC`, 'U1')).toMatchObject({ symbol: 'box' });
  });
});

// Signs of IEC 60617-12, from memory; what each chip does is held by its vectors elsewhere.
describe('gates by what a chip does', () => {
  it.each([
    ['74LS00', 4, '&', true],
    ['74LS02', 4, '≥1', true],
    ['74LS04', 6, '1', true],
    ['74LS07', 6, '1', false],
    ['74LS08', 4, '&', false],
    ['74LS32', 4, '≥1', false],
    ['74LS86', 4, '=1', false],
    ['74LS14', 6, '1', true],
    ['74LS30', 1, '&', true],
  ])('%s: %i of %s, inverted %s', (name, count, sign, inverted) => {
    const gates = gatesOf(chipModel(name)!)!;
    expect(gates).toHaveLength(count);
    expect(gates.every((gate) => gate.sign === sign && gate.inverted === inverted)).toBe(true);
  });
  it.each(['74LS74', '74LS138', '74LS244', '6502', '74LS51'])(
    '%s is no package of gates',
    (name) => {
      expect(gatesOf(chipModel(name)!)).toBeUndefined();
    },
  );
});

const elk = new ELK();
/** Every area of a board, laid out. */
async function areasLaidOut(
  index: ReturnType<typeof indexBoard>,
): Promise<readonly { readonly area: Area; readonly layout: DrawingLayout }[]> {
  const areas = areasOf(index);
  const view = {
    index,
    refs: undefined,
    probed: NOTHING,
    flags: new Map(),
    volts: new Map(),
    packages: false,
  };
  return Promise.all(
    areas.map(async (area, i) => ({
      area,
      layout: await layoutDrawing(index, wantedOf(view, areas, i), (graph) => elk.layout(graph)),
    })),
  );
}

/** What a part covers for sure: the body of its symbol, without names and leads. */
function bodyOf(part: PlacedPart): { left: number; right: number; top: number; bottom: number } {
  if (part.form === 'across') {
    const [x, y] = [part.x + part.width / 2, part.y + part.height / 2];
    return { left: x - 22, right: x + 22, top: y - 9, bottom: y + 9 };
  }
  if (part.form === 'block')
    return {
      left: part.x + 14,
      right: part.x + part.width - 14,
      top: part.y + 22,
      bottom: part.y + part.height - 6,
    };
  const top = part.form === 'leg' ? part.y + 18 : part.y + SIZE.hat - 62;
  return { left: part.x + 26, right: part.x + 50, top, bottom: top + 44 };
}

describe.each(names)('the drawing of %s', (name) => {
  const index = indexBoard(demoBoard(name));

  it('has every symbol in one area, and each area a name', async () => {
    const areas = areasOf(index);
    const all = drawnParts(index, undefined, NOTHING).map(({ key }) => key);
    const placed = areas.flatMap(({ keys }) => [...keys]);
    expect(placed.toSorted()).toEqual(all.toSorted());
    for (const { name } of areas) expect(name).not.toBe('');
    expect(new Set(areas.map(({ name }) => name)).size).toBe(areas.length);
  });

  it('has areas that a frame shows at a legible size', async () => {
    for (const { area, layout } of await areasLaidOut(index)) {
      // 1280 x 800 with a column of text beside it, at the least scale, and half a frame to scroll.
      expect(layout.width, area.name).toBeLessThan(1500);
      expect(layout.height, area.name).toBeLessThan(1300);
    }
  });

  it('shows every part that lies between nets, and names every net that a pin is on', async () => {
    const refs = new Set<string>();
    const rails = railsOf(index);
    for (const { layout } of await areasLaidOut(index)) {
      layout.parts.forEach(({ ref }) => refs.add(ref));
      const bars = new Set(layout.nets.map(({ net }) => net));
      const named = new Set(
        layout.parts.flatMap((part) =>
          part.form === 'block'
            ? part.pins.flatMap(({ by, net, label }) =>
                (by === 'label' && label?.startsWith(net)) || by === 'bus' ? [net] : [],
              )
            : part.form === 'across'
              ? part.nets.filter((net, i) => part.labels[i]?.startsWith(net))
              : [],
        ),
      );
      for (const net of layout.parts.flatMap(netsOf))
        expect(bars.has(net) || named.has(net) || rails.has(net), net).toBe(true);
    }
    const idle = index.board.parts
      .filter((part) => !refs.has(drawnRef(part.ref)))
      .filter(({ pins, kind }) => {
        const nets = new Set(pins.map((pin) => nameKey(pin)));
        // Both ends on one net, or a chip of which no output is in use: nothing to be drawn.
        return nets.size > 1 && kind !== 'chip';
      });
    expect(idle.map(({ ref }) => ref)).toEqual([]);
  });

  it('says of every net that leaves an area where it goes on', async () => {
    const laidOut = await areasLaidOut(index);
    const areas = laidOut.map(({ area }) => area);
    laidOut.forEach(({ layout }, here) => {
      for (const { net, onward } of layout.nets)
        expect(onward !== '', net).toBe(otherAreas(areas, here, net).length > 0);
    });
  });

  it('lays no part on another and leads no wire through one', async () => {
    for (const { layout } of await areasLaidOut(index)) {
      const { parts, wires, nets, width, height } = layout;
      const bodies = [
        ...parts.map((part) => ({ key: part.key, ...bodyOf(part) })),
        ...nets.map(({ net, x, y, width }) => ({
          key: `bar of ${net}`,
          left: x,
          right: x + width,
          top: y,
          bottom: y + SIZE.bar,
        })),
      ];
      for (const { key, left, right, top, bottom } of bodies) {
        expect(left >= -1 && top >= -1 && right <= width + 1 && bottom <= height + 1, key).toBe(
          true,
        );
        for (const other of bodies)
          if (other.key !== key)
            expect(
              left >= other.right ||
                right <= other.left ||
                top >= other.bottom ||
                bottom <= other.top,
              `${key} on ${other.key}`,
            ).toBe(true);
      }
      for (const { points } of wires)
        for (let i = 1; i < points.length; i += 1) {
          const [a, b] = [points[i - 1]!, points[i]!];
          for (const { key, left, right, top, bottom } of bodies) {
            const apart =
              Math.max(a.x, b.x) <= left ||
              Math.min(a.x, b.x) >= right ||
              Math.max(a.y, b.y) <= top ||
              Math.min(a.y, b.y) >= bottom;
            expect(apart, `a wire through ${key}`).toBe(true);
          }
        }
    }
  });

  it('is the same when it is drawn again', async () => {
    expect(await areasLaidOut(index)).toEqual(await areasLaidOut(index));
  });
});

describe('areas', () => {
  const chain = (from: number, to: number): string =>
    Array.from(
      { length: to - from },
      (_, i) => `R${from + i} N${from + i} N${from + i + 1} 1k`,
    ).join('\n');
  it('are the sections that the sheet names, small ones together', () => {
    const sheet = `== Supply ==\nV1 VIN 0 5V\nR900 VIN N1 1k\n== Ladder ==\n${chain(1, 20)}\n== Tail ==\n${chain(20, 45)}`;
    const areas = areasOf(indexOf(sheet));
    expect(areas.map(({ name }) => name)).toEqual(['Supply, Ladder', 'Tail']);
  });
  it('cut a long chain into neighbours, not into every second part', () => {
    const areas = areasOf(indexOf(`V1 N1 0 5V\n${chain(1, 100)}`));
    expect(areas.length).toBeGreaterThan(3);
    for (const { nets } of areas) {
      const numbers = [...nets].map((net) => Number(net.slice(1))).toSorted((a, b) => a - b);
      const gaps = numbers.slice(1).filter((n, i) => n - numbers[i]! > 1);
      expect(gaps.length).toBeLessThan(3);
    }
  });
  it('of nothing are none, and a small sheet is one', () => {
    expect(areasOf(indexBoard({ ...demoBoard(names[0]!), parts: [] }))).toEqual([]);
    expect(areasOf(indexOf('V1 A 0 5V\nR1 A 0 1k'))).toHaveLength(1);
  });
});

describe('buses', () => {
  const pins = (from: number, family: string, lines: number): string =>
    Array.from({ length: lines }, (_, i) => `${from + i}=${family}${i}`).join(' ');
  const two = `U1 box ${pins(1, 'D', 8)} 9=CS\nU2 box ${pins(1, 'D', 8)} 9=CS`;
  const blocks = (text: string, marked = NOTHING) =>
    withBuses(drawn(text), marked).flatMap((one) => (one.form === 'block' ? [one] : []));
  it('bundle four and more numbered lines at one side of a box, in their order', () => {
    const [u1] = blocks('U1 box 1=D3 2=CS 3=D1 4=D0 5=D2\nU2 box 1=D0 2=D1 3=D2 4=D3 5=CS');
    expect(
      busEntries(u1!.pins).flatMap((entry) => entry.pins.map((i) => u1!.pins[i]!.net)),
    ).toEqual([]);
    const [wide] = blocks(two);
    const nets = busEntries(wide!.pins).map((entry) => entry.pins.map((i) => wide!.pins[i]!.net));
    expect(nets).toEqual([['D0', 'D1', 'D2', 'D3', 'D4']]);
  });
  it('leave what a mark is on by itself', () => {
    const [u1] = blocks(two, new Set(['D2']));
    expect(u1!.pins.find(({ net }) => net === 'D2')).toMatchObject({ by: 'wire' });
  });
  it('are led from box to box where both are in view, and named where one is', async () => {
    const layout = await layoutDrawing(
      indexOf(two),
      { marked: NOTHING, flagWidth: () => 0 },
      (graph) => elk.layout(graph),
    );
    expect(layout.buses.map(({ name }) => name)).toEqual(['D0…D4']);
    expect(layout.wires.filter(({ isBus }) => isBus)).toHaveLength(2);
  });
});
