// The papers of a case: what stands in them, and the PDF read back by a general tool.
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { renderToBuffer } from '@react-pdf/renderer';
import { indexBoard } from '@hanzai/core/board';
import { demoBoard } from '@hanzai/data/demo';
import { v7 } from 'uuid';
import { afterAll, describe, expect, it } from 'vitest';
import type { CaseView } from '../case/case-view';
import type { Entry, EntryBody } from '../case/entry';
import { playJournal } from '../case/journal';
import { caseProgress } from '../case/progress';
import { keptParts } from '../case/salvage';
import { caseHazards, unitModelOf } from '../case/unit';
import { certificatePaper } from '../stage/hand-back/certificate';
import { ownersPaper } from '../stage/hand-back/owners';
import { remainsAtRisk } from '../stage/hand-back/risk';
import { technicalPaper, type Closing, type PaperOf } from '../stage/hand-back/technical';
import type { Paper } from './paper';
import { PaperPdf, registerFonts } from './paper-pdf';

const folder = mkdtempSync(join(tmpdir(), 'hanzai-paper-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const index = indexBoard(demoBoard('cr40'));
const model = unitModelOf('optical-disc-reader', []);
const view = {
  id: v7(),
  number: 104,
  title: 'CR-40 card-disc reader, dead after a jolt',
  unitModel: 'Pellwyn CR-40 card-disc reader',
  serial: 'CR40-0388',
  owner: 'Orrin Vale, pattern collector',
  complaint: 'Slid off the bench. Since then nothing moves.',
  spendingLimit: '90.00',
  accessories: 'mains lead',
  stuckInside: 'card disc 14',
  mediaNote: 'may be read to test',
  openedAt: '2026-10-01T09:00:00.000Z',
  board: { id: v7(), content: index.board },
} as unknown as CaseView;

let at = Date.parse('2026-10-01T10:00:00.000Z');
const entry = (body: EntryBody): Entry => ({
  id: v7(),
  madeAt: new Date((at += 60_000)).toISOString(),
  body,
});
const closing: Closing = {
  kind: 'close',
  note: 'The motor capacitors are of the same age.',
  price: 64.5,
  guaranteeDays: 180,
  followUpOn: '2027-01-15',
  returned: 'the old choke in a bag',
};
const BODIES: EntryBody[] = [
  { kind: 'symptom', text: 'no movement at all after a drop' },
  { kind: 'finding', text: 'ring around one leg of the choke', ref: 'L1' },
  { kind: 'reading', setup: 'off', quantity: 'resistance', at: 'L1.1', to: 'L1.2', value: 0.4, typed: 'l1.1 l1.2 .4r' },
  { kind: 'condemn', ref: 'L1', probability: 0.98, reason: 'the choke is whole, its joint is not' },
  { kind: 'removed', ref: 'L1', value: '47u', sat: 'either way', note: '' },
  { kind: 'fitted', ref: 'L1', value: '47u', polarityChecked: false, note: 'same part, 470 µH it is not, 0.4 Ω' },
  { kind: 'run', medium: 'card 14', of: 'pressed', where: '', states: ['closed', 'warm'], passes: 157, errors: 0, note: '' },
]; // prettier-ignore

function paperOf(bodies: readonly EntryBody[], of = index): PaperOf & { entries: Entry[] } {
  const entries = bodies.map(entry);
  const journal = playJournal(entries, of);
  return {
    view,
    journal,
    index: of,
    model,
    proof: caseProgress(of, journal).proof,
    kept: keptParts(of, journal, [], []),
    usualMinutes: null,
    entries,
  };
}
const textOf = (paper: Paper): string =>
  [
    paper.kind,
    paper.title,
    ...paper.facts.flat(),
    ...paper.sections.flatMap(({ title, blocks }) => [
      title,
      ...blocks.flatMap((block) =>
        block.type === 'words'
          ? [block.text]
          : block.type === 'list'
            ? block.lines
            : [...block.head, ...block.rows.flat()],
      ),
    ]),
  ].join('\n');

const fonts = new URL('../../../node_modules/@fontsource/', import.meta.url).pathname;
registerFonts({
  plain: `${fonts}atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff`,
  bold: `${fonts}atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff`,
  figures: `${fonts}commit-mono/files/commit-mono-latin-400-normal.woff`,
});
async function pdfOf(paper: Paper): Promise<{ text: string; pages: number; fonts: string }> {
  const file = join(folder, `${v7()}.pdf`);
  writeFileSync(file, await renderToBuffer(<PaperPdf paper={paper} />));
  const text = execFileSync('pdftotext', ['-layout', '-enc', 'UTF-8', file, '-'], {
    encoding: 'utf8',
  });
  return {
    text,
    pages: text.split('\f').length - 1,
    fonts: execFileSync('pdffonts', [file], { encoding: 'utf8' }),
  };
}
/** Every word that is longer than a few letters, without what breaks over lines. */
const wordsIn = (text: string): string[] => text.match(/[\p{L}\d.Ωµ]{3,}/gu) ?? [];

describe('the technical report', () => {
  it('has all of it, and its figures wait for the engine', () => {
    const waiting = textOf(technicalPaper(paperOf(BODIES), undefined));
    expect(waiting).toContain('still being worked out');
    const text = textOf(
      technicalPaper(paperOf(BODIES), { readings: {}, weightFor: null }, closing),
    );
    for (const words of [
      'no movement at all after a drop',
      'the choke is whole, its joint is not',
      'Error rate below 1.9 % at 95 % (0 of 157 passes with an error), card 14, closed, warm.',
      'Not tried: a disc written elsewhere',
      'card 14 (pressed), closed, warm: 157 passes, 0 errors',
      'first power, with a limit',
      'not done',
    ])
      expect(text).toContain(words);
    expect(text).not.toMatch(/undefined|NaN|\[object/);
  });

  it('as a PDF says the same, in the application’s fonts, ohm and micro too', async () => {
    const paper = technicalPaper(paperOf(BODIES), { readings: {}, weightFor: null }, closing);
    const { text, fonts: used } = await pdfOf(paper);
    const found = new Set(wordsIn(text.replaceAll('-\n', '')));
    const missing = wordsIn(textOf(paper)).filter((word) => !found.has(word));
    expect(missing).toEqual([]);
    expect(text).toContain('0.4 Ω');
    expect(text).toContain('470 µH');
    expect(used).toMatch(/Atkinson/);
    expect(used).toMatch(/Commit/);
    // Embedded, so that it is read anywhere.
    for (const line of used.trim().split('\n').slice(2)) expect(line).toMatch(/yes yes/);
  });
});

describe('the page for the owner', () => {
  it('is one page, and says what was shown, what was not, and what remains at risk', async () => {
    const of = paperOf([...BODIES, closing]);
    const paper = ownersPaper(of, closing, '2026-10-02T12:00:00.000Z', 90);
    const text = textOf(paper);
    for (const words of [
      'the choke is whole, its joint is not',
      'L1',
      'identified',
      'Error rate below 1.9 %',
      'Not tried:',
      'The proof is not complete: it goes back as it is.',
      'The motor capacitors are of the same age.',
      '64.50. Within the 90 agreed.',
      'the old choke in a bag',
      'until 31 March 2027',
      'We ask how it runs on 15 January 2027.',
      'Agreed about media: may be read to test',
    ])
      expect(text, words).toContain(words);
    // No owner reads decibans, and nothing says more than the proof.
    expect(text).not.toMatch(/deciban|dB|\bworks\b|undefined/);
    const { pages, text: printed } = await pdfOf(paper);
    expect(pages).toBe(1);
    expect(printed).toContain(
      'Follow local codes; mains and laser work only if you are qualified.',
    );
  });

  it('says that a price is above what was agreed, and that nothing was repaired', () => {
    const gone: EntryBody = { kind: 'decision', course: 'give-up', reason: 'both heads open' };
    const given = textOf(
      ownersPaper(paperOf([...BODIES.slice(0, 2), gone]), undefined, undefined, undefined),
    );
    expect(given).toContain('It was not repaired');
    expect(given).toContain('both heads open');
    expect(given).not.toContain('What it was shown to do');
    expect(given).not.toContain('Costs');
    const dear = textOf(ownersPaper(paperOf(BODIES), { ...closing, price: 120 }, undefined, 90));
    expect(dear).toContain('120.00. Above the 90 agreed');
    expect(dear).not.toContain('until');
  });

  it('takes the longest case there may be, in pages, with nothing lost', async () => {
    const long = Array.from({ length: 120 }, (_, i): EntryBody => ({
      kind: 'finding',
      text: `finding${i} ${'crust at the minus leg '.repeat(12)}`.slice(0, 500),
    }));
    const paper = technicalPaper(paperOf([...BODIES, ...long]), { readings: {}, weightFor: null });
    const { text, pages } = await pdfOf(paper);
    expect(pages).toBeGreaterThan(4);
    for (let i = 0; i < 120; i += 1) expect(text).toContain(`finding${i}`);
    expect(text).toContain(`1 of ${pages}`);
  });
});

describe('what remains at risk', () => {
  const aged: EntryBody[] = [
    { kind: 'condemn', ref: 'C1', probability: 0.9, reason: 'ESR 9 Ω' },
    { kind: 'removed', ref: 'C1', value: '47u', note: '' },
    { kind: 'fitted', ref: 'C1', value: '47u 25V', polarityChecked: true, note: '' },
  ];
  it('names the like of what failed, and when they are likely to follow', () => {
    const risk = remainsAtRisk(paperOf(aged)).join(' ');
    expect(risk).toMatch(/Of the same age as what failed.*C\d/);
    expect(risk).toMatch(/fails of age about .* within 500 hours of running, .* within 2000 hours/);
    expect(risk).toContain('from memory of bench practice');
    expect(risk).not.toMatch(/\bC1\b/);
  });
  it('warns of a line filter until somebody says there is none, or it was renewed', () => {
    const tape = unitModelOf('stepper-carriage', [])!;
    const of = (...bodies: EntryBody[]) =>
      remainsAtRisk({ ...paperOf(bodies), model: tape }).join(' ');
    const key = caseHazards(tape, index, playJournal([], index)).find((one) =>
      one.key.endsWith('line-filter'),
    )!.key;
    const acknowledged: EntryBody = { kind: 'acknowledge', hazard: key, who: 'T. Quill' };
    const renewed: EntryBody = {
      kind: 'fitted',
      ref: 'C1',
      value: '100n 275V X2',
      polarityChecked: false,
      note: 'line filter, X2 class',
    };
    expect(of()).toContain('can crack, smoke and burn');
    // To know of it is not to have renewed it.
    expect(of(acknowledged)).toContain('can crack, smoke and burn');
    expect(of({ ...acknowledged, notHere: true })).not.toContain('smoke');
    expect(of(renewed)).not.toContain('smoke');
  });
});

describe('the certificate', () => {
  it('is none while a step is open, and says how many', () => {
    const text = textOf(certificatePaper(paperOf(BODIES), undefined));
    expect(text).toContain('Not proven, case 104');
    expect(text).toMatch(/\d+ of \d+ steps of the proof did not pass or were not made/);
    expect(text).not.toContain('Certificate');
    expect(textOf(certificatePaper(paperOf([]), undefined))).toContain('There is no certificate');
  });
  it('has every step, the bound and what was not tried, and no word more', () => {
    const of = paperOf(BODIES);
    const passed = { ...of, proof: of.proof.map((step) => ({ ...step, state: 'pass' as const })) };
    const text = textOf(certificatePaper(passed, '2026-10-02T12:00:00.000Z'));
    expect(text).toContain('Certificate of the proof, case 104');
    expect(text).toContain('Error rate below 1.9 % at 95 %');
    expect(text).toContain('Not tried: a disc written elsewhere');
    expect(text).toContain('2 October 2026');
    expect(text).not.toMatch(/\bworks\b|undefined|FAIL/);
  });
});

it('costs and time stand beside what was agreed and what such cases took', () => {
  const of = { ...paperOf(BODIES), usualMinutes: 84.4 };
  const text = textOf(technicalPaper(of, undefined, closing, 60));
  expect(text).toContain('64.50. Above the 60 agreed');
  expect(text).toMatch(/at the bench; half of the closed cases of its kind took up to 84 min/);
  expect(textOf(technicalPaper(paperOf(BODIES), undefined))).toMatch(/min at the bench\./);
});

describe('a unit that is given up', () => {
  const laser = model!.killChecks[0]!;
  const given: EntryBody[] = [
    { kind: 'check', title: laser.title, block: laser.block, good: false, kill: true },
    { kind: 'condemn', ref: 'L1', probability: 0.98, reason: 'open' },
    { kind: 'decision', course: 'give-up', reason: 'the beam is gone' },
  ];
  it('tells what is finished and what is worth keeping, on both papers', () => {
    const of = paperOf(given);
    for (const paper of [
      technicalPaper(of, undefined),
      ownersPaper(of, undefined, undefined, undefined),
    ]) {
      const text = textOf(paper);
      expect(text).toContain(`Worth saving: ${laser.worthSaving}`);
      expect(text).toContain('Nothing of it is proven');
      // What is condemned is never kept.
      expect(of.kept.map(({ ref }) => ref)).not.toContain('L1');
    }
  });
  it('keeps nothing that the engine suspects', () => {
    const { index: of, journal, kept } = paperOf(given);
    const [first] = kept;
    const suspects = [{ ref: first?.ref ?? 'C1', probability: 0.1 }];
    expect(keptParts(of, journal, suspects, []).map(({ ref }) => ref)).not.toContain(first?.ref);
  });
  it('says nothing of it where the unit is repaired', () => {
    const of = paperOf(BODIES);
    expect(of.kept).toEqual([]);
    expect(textOf(technicalPaper(of, undefined))).not.toContain('Worth saving');
  });
});
