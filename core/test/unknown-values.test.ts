import { describe, expect, it } from 'vitest';
import { LIBRARY, RATES } from '@hanzai/data';
import {
  indexBoard,
  readBoardFile,
  readBoardJson,
  readDeck,
  readPartsList,
  writeBoardJson,
  writeDeck,
  writePartsList,
  type Board,
} from '../src/board';
import { storedCharges } from '../src/bench';
import { diagnose, taughtBy } from '../src/diagnosis';
import type { Reading } from '../src/instrument';
import { judgeFit, readSpec, specOfParts } from '../src/part';
import { board, measurement, respond } from './boards';

const DECK = `pencil marks
V1 SUP 0 12
XF1 SUP VM FUSE
R9 VM OUT ?
R8 OUT 0 10k
C1 VM 0 ?
*@ C1 kind=electrolytic volt=? esr=?
L1 VM VL ?
R7 VL 0 1k
.end
`;

function deck(text = DECK): Board {
  const read = readDeck(text, LIBRARY);
  if (!read.ok) throw new Error(JSON.stringify(read.issues));
  return read.value;
}

const partOf = ({ parts }: Board, ref: string) =>
  parts.find((part) => part.ref === ref)! as unknown as Record<string, unknown>;

describe('a value that is not known', () => {
  it.each(['R9', 'C1', 'L1'])('%s is one in a deck, and stays one through every file', (ref) => {
    const read = deck();
    expect(partOf(read, ref).unknown).toBe(true);
    expect(writeDeck(read, LIBRARY)).toMatch(new RegExp(`^${ref} \\S+ \\S+ \\?$`, 'm'));
    expect(deck(writeDeck(read, LIBRARY)).parts).toEqual(read.parts);
    const json = writeBoardJson(read);
    expect(json).not.toContain('"unknown"');
    const back = readBoardJson(json);
    expect(back.ok && back.value.parts).toEqual(read.parts);
    expect(writePartsList(read)).toMatch(new RegExp(`^${ref},[a-z ]+,\\?,`, 'm'));
  });
  it('is one in a parts list; nothing at all there is still a mistake', () => {
    const read = readPartsList(
      'ref,device,value\nR1,resistor,?\nC1,capacitor electrolytic,?\nL1,inductor,?\n',
    );
    expect(read.ok && read.value.parts.map((part) => (part as { unknown?: true }).unknown)).toEqual(
      [true, true, true],
    );
    expect(readPartsList('ref,device,value\nR1,resistor,\n').ok).toBe(false);
  });
  it('in Board JSON leaves other question marks alone, and what else is not a number is refused', () => {
    const raw = (ohm: unknown) =>
      JSON.stringify({
        format: 'hanzai-board',
        version: 1,
        title: '?',
        parts: [{ kind: 'resistor', ref: '?', pins: ['A', '0'], resistanceOhm: ohm }],
      });
    const read = readBoardJson(raw('?'));
    expect(read.ok && read.value).toMatchObject({
      title: '?',
      parts: [{ ref: '?', unknown: true }],
    });
    for (const bad of ['??', '4k7', null, -1, 0]) expect(readBoardJson(raw(bad)).ok).toBe(false);
    expect(readBoardFile('b.json', '[1, "?"]', LIBRARY).ok).toBe(false);
  });
  it('does not drift, fits nothing for sure, and its charge is taken as a large one', () => {
    const index = indexBoard(
      deck('t\nV1 SUP 0 100\nR1 SUP HV ?\nC1 HV 0 ?\n*@ C1 kind=electrolytic volt=160\n.end\n'),
    );
    expect(
      diagnose(index, [], RATES).suspects.some(({ hypothesis }) =>
        hypothesis.name.startsWith('R1:drift'),
      ),
    ).toBe(false);
    for (const ref of ['R1', 'C1']) {
      const was = specOfParts([index.partByKey.get(ref.toLowerCase())!]);
      const remarks = judgeFit(was, readSpec('4700 400V', undefined, was.kind));
      expect(remarks.find(({ code }) => code === 'value')?.level).toBe('warn');
      expect(remarks.some(({ code, level }) => code === 'esr' && level === 'ok')).toBe(false);
    }
    expect(storedCharges(index)[0]!.joule).toBeGreaterThan(20);
  });
});

describe('a sheet of pencil marks', () => {
  const index = indexBoard(deck());
  const real = board(
    'V1 SUP 0 12\nXF1 SUP VM FUSE\nR9 VM OUT 47k\nR8 OUT 0 10k\nC1 VM 0 100u\nL1 VM VL 100u\nR7 VL 0 1k',
  );
  const read = (kind: string, at: string, to = ''): Reading => ({
    measurement: measurement(index, kind, at, to),
    value: respond(real, kind, at, to).value,
  });
  it('convicts nobody by volts behind what it does not know', () => {
    const belief = diagnose(index, [read('voltage', 'OUT'), read('voltage', 'VM')], RATES);
    expect(belief.unmodelled).toBeLessThan(0.1);
    expect(belief.byPart[0]!.probability).toBeLessThan(0.5);
  });
  it('is taught a value by the first reading across it: R9 in parallel with nothing, R8 beside it', () => {
    const taught = taughtBy(index, [read('resistance', 'VM', 'OUT')]);
    const r9 = taught.index.board.parts.find(({ ref }) => ref === 'R9') as {
      resistanceOhm: number;
    };
    expect(r9.resistanceOhm / 47e3).toBeCloseTo(1, 1);
    expect(taught.readings[0]!.measurement.at.net).toBe('VM');
  });
  it('and then judges with it: half the volts behind it are a fault again', () => {
    const across = read('resistance', 'VM', 'OUT');
    const out = read('voltage', 'OUT');
    const good = diagnose(index, [across, out], RATES);
    expect(good.byPart[0]!.probability).toBeLessThan(0.5);
    const bad = diagnose(
      index,
      [
        across,
        { ...out, value: 0.3 * (out.value as number) },
        { measurement: measurement(index, 'resistance', 'OUT'), value: 2900 },
      ],
      RATES,
    );
    expect(bad.byPart.slice(0, 2).map(({ ref }) => ref)).toContain('R8');
  });
  it('learns nothing from a reading that no value could give', () => {
    const impossible: Reading = {
      measurement: measurement(index, 'resistance', 'VM', 'OUT'),
      value: 2e6,
    };
    expect(taughtBy(index, [impossible]).key).toBe('');
    expect(taughtBy(index, [{ ...impossible, value: 'OL' }]).key).toBe('');
    expect(taughtBy(index, []).index).toBe(index);
  });
});
