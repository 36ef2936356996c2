// @vitest-environment happy-dom
import { ARCHETYPES } from '@hanzai/data';
import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { EntryBody } from '../case/entry';
import { playJournal } from '../case/journal';
import { PowerAnyway } from '../case/PowerAnyway';
import { StartForm } from '../case/StartForm';
import type { CaseState } from '../case/use-case';
import { StepForm } from '../stage/open-up/StepForm';
import { FindingForm } from '../stage/look/FindingForm';
import { TrialForm } from '../stage/swaps/TrialForm';
import { Timers } from '../stage/first-aid/Timers';

const model = ARCHETYPES[0]!;
const filed: EntryBody[] = [];
let refusal: string | undefined;

/** A case in which nothing was done. What is filed has to be an entry that the server would take. */
function emptyCase(): CaseState {
  const append = (body: EntryBody): string | undefined => {
    filed.push(EntryBody.parse(body));
    return refusal;
  };
  return {
    journal: playJournal([], undefined),
    entries: [],
    index: undefined,
    model,
    solved: undefined,
    append,
  } as unknown as CaseState;
}

const type = async (label: string, text: string): Promise<void> => {
  const field = screen.getByLabelText(label);
  await userEvent.clear(field);
  if (text !== '') await userEvent.type(field, text);
};
const press = (name: string): Promise<void> =>
  userEvent.click(screen.getByRole('button', { name }));
const alerts = (): string[] => screen.queryAllByRole('alert').map((one) => one.textContent);
const valueOf = (label: string): string => screen.getByLabelText<HTMLInputElement>(label).value;

beforeEach(() => {
  filed.length = 0;
  refusal = undefined;
});
afterEach(cleanup);

describe('a start of the unit', () => {
  beforeEach(() => void render(<StartForm state={emptyCase()} model={model} />));

  it('is asked for the stage first, and keeps what was typed', async () => {
    await type('Seconds', '4,5');
    await press('Add the start');
    expect(alerts()).toEqual(['say first which stage it does not reach']);
    expect(valueOf('Seconds')).toBe('4,5');
    expect(filed).toEqual([]);
  });

  it('files the conditions by commas, and begins anew with those', async () => {
    await userEvent.click(screen.getByLabelText('it does them all'));
    await type('Other conditions, by commas', ' Cold, , lid off ');
    await type('Seconds', '4,5');
    await press('Add the start');
    expect(filed).toMatchObject([
      { kind: 'start', failedAt: null, seconds: 4.5, tries: 1, conditions: ['cold', 'lid off'] },
    ]);
    expect(valueOf('Seconds')).toBe('');
    expect(valueOf('Other conditions, by commas')).toBe(' Cold, , lid off ');
    expect(screen.getByLabelText<HTMLInputElement>('it does them all').checked).toBe(false);
  });

  it('refuses at the field what is no time and no number of tries', async () => {
    await userEvent.click(screen.getByLabelText('it does them all'));
    await type('Seconds', '1e9');
    await type('Tries', '0');
    await press('Add the start');
    expect(alerts()).toEqual([
      '“1e9” is no time; expected seconds such as 4 or 12.5',
      '“0” is no number of tries; expected 1 to 99',
    ]);
    expect(filed).toEqual([]);
  });

  it('says what the case has against it and loses nothing', async () => {
    refusal = 'the case is closed; reopen it first';
    await userEvent.click(screen.getByLabelText('it does them all'));
    await type('Sounds', 'hum');
    await press('Add the start');
    expect(alerts()).toEqual([refusal]);
    expect(valueOf('Sounds')).toBe('hum');
  });
});

describe('a trial', () => {
  beforeEach(() => void render(<TrialForm state={emptyCase()} model={model} />));

  it('says nothing where nothing of this unit was in use', async () => {
    for (const { title } of model.blocks) await userEvent.click(screen.getByLabelText(title));
    await press('Add the trial');
    expect(alerts()).toEqual(['then nothing of this unit was in use: it says nothing']);
    expect(filed).toEqual([]);
  });

  it('counts an empty field as none, and exercises the rest of the unit', async () => {
    const [first, ...rest] = model.blocks;
    await userEvent.click(screen.getByLabelText(first!.title));
    await type('Times good', '3');
    await press('Add the trial');
    expect(filed).toMatchObject([
      { kind: 'trial', passed: 3, failed: 0, exercised: rest.map(({ name }) => name) },
    ]);
  });

  it('refuses half a time', async () => {
    await userEvent.click(screen.getByLabelText(model.blocks[0]!.title));
    await type('Times bad', '1.5');
    await press('Add the trial');
    expect(alerts()).toEqual(['“1.5” is no count; expected a whole number from 0 to 999']);
  });
});

describe('a step of opening up', () => {
  beforeEach(() => void render(<StepForm state={emptyCase()} locked={false} />));

  it('keeps the screw for the next one of the same lid', async () => {
    await type('Length, mm', '6,5');
    await type('Count', '4');
    await press('Add the step');
    await press('Add the step');
    const step = { what: 'fastener', of: 'lid', name: 'M3 pan', lengthMm: 6.5, count: 4 };
    expect(filed).toMatchObject([
      { kind: 'step', step },
      { kind: 'step', step },
    ]);
  });

  it('asks a plug for its name anew, and how it lets go', async () => {
    await userEvent.click(screen.getByLabelText('plug'));
    await type('Name', 'P3');
    await type('How it lets go', 'lift the bail');
    await press('Add the step');
    expect(filed).toMatchObject([
      { step: { what: 'plug', name: 'P3', way: 'lift the bail', count: 1 } },
    ]);
    expect(valueOf('Name')).toBe('');
  });

  it.each([
    ['Of', ' ', 'say of what it came off, for example lid'],
    ['Length, mm', '0', '“0” is no length; expected millimetres above 0 and up to 200'],
    ['Count', '61', '“61” is no count; expected 1 to 60'],
  ])('refuses %s %j', async (label, text, words) => {
    await type(label, text);
    await press('Add the step');
    expect(alerts()).toEqual([words]);
    expect(filed).toEqual([]);
  });
});

describe('a finding', () => {
  it('has to be of a kind, of a size, and is then put down', async () => {
    const onDone = vi.fn();
    render(<FindingForm state={emptyCase()} place={undefined} on={undefined} onDone={onDone} />);
    await type('Across, mm', 'four');
    await press('Add the finding');
    expect(alerts()).toEqual([
      '“four” is no size; expected millimetres such as 4',
      'say what it is',
    ]);
    expect(onDone).not.toHaveBeenCalled();
    await userEvent.click(screen.getAllByRole('radio')[0]!);
    await type('Across, mm', '4');
    await userEvent.selectOptions(screen.getByLabelText('How sure'), 'perhaps');
    await press('Add the finding');
    expect(filed).toMatchObject([{ kind: 'seen', sizeMm: 4, certainty: 0.4 }]);
    expect(onDone).toHaveBeenCalledOnce();
  });
});

describe('what runs by itself', () => {
  it('is named and has hours', async () => {
    render(<Timers state={emptyCase()} />);
    await press('Start it');
    expect(alerts()).toEqual([
      'say what it is, for example: cover in the sun',
      '“” is no time; expected hours up to 2000',
    ]);
    await type('For', 'cover in the sun');
    await type('Hours', '12');
    await userEvent.selectOptions(
      screen.getByLabelText('Start a timer'),
      'bleaching, hours of daylight',
    );
    await press('Start it');
    expect(filed).toEqual([
      { kind: 'timer', what: 'bleach', title: 'cover in the sun', hours: 12 },
    ]);
  });
});

describe('power all the same', () => {
  it('is not asked for while nothing locks it', () => {
    const { container } = render(<PowerAnyway state={emptyCase()} />);
    expect(container.textContent).toBe('');
  });
});
