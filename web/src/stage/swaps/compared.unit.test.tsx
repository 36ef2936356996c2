// @vitest-environment happy-dom
import { ARCHETYPES } from '@hanzai/data';
import { cleanup, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { EntryBody, type Entry } from '../../case/entry';
import { playJournal } from '../../case/journal';
import { blockEvidence, unitBelief } from '../../case/unit';
import { fileCompared } from './file-compared';
import { MediumCheck } from './MediumCheck';
import { PinOutCheck } from './PinOutCheck';

// What two sets of figures come to, and what of it is evidence in a case.

afterEach(cleanup);
const flexible = ARCHETYPES.find(({ name }) => name === 'flexible-disk-unit')!;
const carriage = ARCHETYPES.find(({ name }) => name === 'stepper-carriage')!;

function filing(model: typeof flexible | undefined) {
  const filed: EntryBody[] = [];
  return {
    filed,
    file: (of: 'layout' | 'pin-out', good: boolean, words = 'layout: x') =>
      fileCompared({ model, append: (body) => void filed.push(EntryBody.parse(body)) }, of, {
        good,
        words,
      }),
  };
}
const journalOf = (bodies: readonly EntryBody[]) =>
  playJournal(
    bodies.map((body, i): Entry => ({
      id: `01890000-0000-7000-8000-${String(i).padStart(12, '0')}`,
      madeAt: '2026-11-29T08:00:00.000Z',
      body,
    })),
    undefined,
  );
const chance = (bodies: readonly EntryBody[], block: string): number =>
  unitBelief(flexible, journalOf(bodies)).byBlock.find((one) => one.block === block)!.probability;

describe('a comparison as evidence', () => {
  it('speaks of the medium, of the nearest to a cable, and is a note where the unit has neither', () => {
    const [disk, stepper, none] = [filing(flexible), filing(carriage), filing(undefined)];
    disk.file('layout', false);
    disk.file('pin-out', false);
    stepper.file('layout', false);
    stepper.file('pin-out', true);
    none.file('pin-out', true);
    expect(disk.filed).toMatchObject([
      { kind: 'check', block: 'medium', good: false, of: 'layout' },
      { kind: 'check', block: 'cable', good: false, of: 'pin-out' },
    ]);
    expect(stepper.filed).toMatchObject([
      { kind: 'finding' },
      { kind: 'check', block: 'host-line' },
    ]);
    expect(none.filed).toMatchObject([{ kind: 'finding' }]);
  });
  it('that does not go together weighs much, one that does acquits little', () => {
    const { filed, file } = filing(flexible);
    file('layout', false);
    file('layout', true);
    const [bad, good] = [chance([filed[0]!], 'medium'), chance([filed[1]!], 'medium')];
    const before = chance([], 'medium');
    expect(bad / (1 - bad)).toBeGreaterThan((5 * before) / (1 - before));
    // A look at the thing itself finds twice as much of what can be wrong with it.
    const seen = chance(
      [{ kind: 'check', title: 'medium', block: 'medium', good: true }],
      'medium',
    );
    expect(good).toBeLessThan(before);
    expect(good).toBeGreaterThan(seen);
    expect(blockEvidence(flexible, journalOf([filed[0]!])).evidence).toMatchObject([
      { type: 'check', block: 'medium', coverage: 0.35 },
    ]);
  });
  it('of any length is one that can be filed', () => {
    const { filed, file } = filing(flexible);
    file('layout', false, 'w'.repeat(900));
    expect(filed[0]).toMatchObject({ title: expect.stringMatching(/^w{199}…$/) as string });
    expect(EntryBody.safeParse({ ...filed[0], of: 'guess' }).success).toBe(false);
  });
});

describe('the two comparisons on the screen', () => {
  it('a layout is filed once with what its files lose, and again when it changed', async () => {
    const onFile = vi.fn<(found: { good: boolean; words: string }) => string | undefined>();
    render(<MediumCheck onFile={onFile} />);
    await userEvent.type(screen.getByLabelText(/type its directory/), 'BIG.BIN 60000');
    expect(screen.getByText(/1 file: 0 whole, 1 cut, 0 without/)).toBeTruthy();
    const button = (): HTMLElement => screen.getByRole('button', { name: /evidence|Filed/ });
    await userEvent.click(button());
    expect(button().textContent).toBe('Filed');
    expect(onFile.mock.calls[0]![0]).toMatchObject({
      good: false,
      words: expect.stringMatching(/15 of 18 sectors.*1 file: 0 whole, 1 cut/) as string,
    });
    const tracks = document.getElementById('set-sectorsPerTrack')!;
    await userEvent.clear(tracks);
    await userEvent.type(tracks, '18');
    expect(button().textContent).toBe('Take it as evidence');
    await userEvent.click(button());
    expect(onFile.mock.calls[1]![0].good).toBe(true);
  });
  it('an image that is none is refused in words, and what stood is gone', async () => {
    render(<MediumCheck onFile={() => undefined} />);
    const input = screen.getByLabelText(/Image of the disk/);
    await userEvent.upload(input, new File([new Uint8Array(4096)], 'a.img'));
    expect(await screen.findByText(/does not say how it is laid out/)).toBeTruthy();
    await userEvent.upload(input, new File(['A.TXT 100\n'], 'dir.txt'));
    expect(await screen.findByText(/1 file: 1 whole/)).toBeTruthy();
    await userEvent.upload(input, new File([new Uint8Array(5 * 1024 * 1024)], 'a.img'));
    expect(await screen.findByText(/larger than any/)).toBeTruthy();
    expect(screen.queryByText(/1 file: 1 whole/)).toBeNull();
  });
  it('a pin-out that clashes is filed as bad; why it was refused stays on the screen', async () => {
    const onFile = vi.fn(() => 'the case is closed');
    render(<PinOutCheck onFile={onFile} />);
    await userEvent.click(screen.getByRole('button', { name: 'Take it as evidence' }));
    expect(onFile).toHaveBeenCalledWith(
      expect.objectContaining({ good: false, words: expect.stringContaining('pin-out') as string }),
    );
    expect(within(document.body).getByText(/the case is closed/)).toBeTruthy();
  });
});
