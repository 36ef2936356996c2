import { describe, expect, it } from 'vitest';
import { board, respond, volts } from '../boards';
import reference from './gates/expected.json' with { type: 'json' };

// The stages of the chips against the gates transistor by transistor, as a general circuit
// simulator has them (scripts/reference-gates.mjs; textbook circuits, component values from
// memory).

interface Row {
  readonly family: string;
  readonly name: string;
  readonly lines: readonly string[];
  readonly at: string;
  readonly volt: number;
}

const rows = reference.rows as readonly Row[];

/**
 * One gate of a package each: its first two inputs and its output, the others of the package tied
 * high.
 */
function deck({ family, lines }: Row): string {
  const rest = 'SUP SUP nc_REF_6 0 nc_REF_8 SUP SUP nc_REF_11 SUP SUP SUP';
  const gates = lines.map((line) => {
    const gate = /^X(\S+) (\S+) (\S+) (\S+) SUP GATE$/.exec(line);
    return gate
      ? `X${gate[1]} ${gate[2]} ${gate[3]} ${gate[4]} ${rest.replaceAll('REF', gate[1]!)} ${family}`
      : line;
  });
  return ['V1 SUP 0 5', ...gates].join('\n');
}

/**
 * Volts that a stage may be off, for what a family's parts spread themselves: standard 0.25,
 * low-power Schottky 0.4. More where no current to speak of flows: an input left to itself is taken
 * to float at
 * 1.4 V, and a pull-up without load reaches what its make has it reach; no threshold lies near
 * either.
 */
function room({ family, name }: Row): number {
  if (/^input with (2.2k|10k)/.test(name)) return 0.4;
  if (family === '74LS00' && /^high output (into|with 100k)/.test(name)) return 1;
  return family === '7400' ? 0.25 : 0.4;
}

describe('chip stages against gates of transistors', () => {
  it.each(rows.map((row) => [`${row.family}: ${row.name}`, row] as const))('%s', (_, row) => {
    const answer = volts(board(deck(row)))[row.at];
    expect(answer).not.toBeNull();
    expect(Math.abs(answer! - row.volt)).toBeLessThanOrEqual(room(row));
  });
  it('two inputs of one gate tied together draw no more than one: they share a base resistor', () => {
    for (const row of rows.filter(({ name }) => name.startsWith('two inputs tied'))) {
      const alone = rows.find(
        ({ family, name }) =>
          family === row.family &&
          name ===
            row.name.replace('two inputs tied with', 'input with').concat(', the other one high'),
      )!;
      const [both, one] = [volts(board(deck(row)))[row.at]!, volts(board(deck(alone)))[alone.at]!];
      expect(Math.abs(both - one)).toBeLessThan(0.05);
      expect(Math.abs(both - row.volt) / row.volt).toBeLessThan(0.2);
    }
  });
  it('inputs of two gates do not share, nor the inputs of a gate that takes each by itself', () => {
    const across =
      'V1 SUP 0 5\nXU1 IN SUP Y IN SUP Z 0 nc_8 SUP SUP nc_11 SUP SUP SUP 7400\nR1 IN 0 330';
    const nor =
      'V1 SUP 0 5\nXU1 Y IN IN nc_4 SUP SUP 0 SUP SUP nc_10 SUP SUP nc_13 SUP 7402\nR1 IN 0 330';
    const one =
      'V1 SUP 0 5\nXU1 IN SUP Y SUP SUP Z 0 nc_8 SUP SUP nc_11 SUP SUP SUP 7400\nR1 IN 0 330';
    const [two, each, single] = [across, nor, one].map(
      (lines) => respond(board(lines), 'voltage', 'IN').value,
    ) as [number, number, number];
    expect(two).toBeGreaterThan(1.6 * single);
    expect(each).toBeGreaterThan(1.6 * single);
  });
});
