import { GROUND, pinName, type BoardIndex, type Part } from '@hanzai/core/board';

/** One line of the grammar, made of this board's own names, and what it files. */
export interface Example {
  readonly line: string;
  readonly words: string;
}

/** The grammar of the strip by examples that can be typed as they stand. */
export function grammarExamples(index: BoardIndex | undefined): readonly Example[] {
  const parts = index?.board.parts ?? [];
  const ofKind = (kind: Part['kind'], otherwise: string): string | undefined =>
    index ? parts.find((part) => part.kind === kind)?.ref.toLowerCase() : otherwise;
  const nets = (index?.nets ?? ['p5', 'vm']).filter((net) => net !== GROUND);
  const rail = parts
    .find(({ kind }) => kind === 'voltageSource')
    ?.pins.find((pin) => pin !== GROUND);
  const net = (rail ?? nets[0])?.toLowerCase();
  const other = nets.find((one) => one.toLowerCase() !== net)?.toLowerCase();
  const chip = parts.find((part) => part.kind === 'chip');
  const pin = index ? chip && `${chip.ref}.${pinName(chip, 0)}`.toLowerCase() : 'u7.11';
  const q = ofKind('transistor', 'q1');
  const seen = index?.board.observables?.[0]?.name;
  const [c, r, f] = [ofKind('capacitor', 'c3'), ofKind('resistor', 'r12'), ofKind('fuse', 'f1')];
  const any = c ?? r ?? f ?? [...(index?.replaceable.keys() ?? [])][0]?.toLowerCase();
  const lines: readonly (readonly [string | undefined, string])[] = [
    [net && `${net} 4.98`, 'volts at a net, to ground'],
    [net && `${net} gnd 340 ohm`, 'ohms between two points'],
    [r && `${r} 4k7`, 'ohms across a part of two pins'],
    [c && `${c} 1.03 esr`, 'ESR'],
    [f && `${f} beep`, 'continuity: beep or open'],
    [q && `${q}.b ${q}.e .62 diode`, 'diode test from pin to pin'],
    [pin && `${pin} p`, 'logic level: 0, 1, p (pulsing) or z (floating)'],
    [r && `${r} 20ma`, 'current through a part'],
    [seen && `${seen} no`, 'what is seen or heard of the unit'],
    [net && any && `${net} 4.98; ${any} off`, 'several at once'],
    [net && other && `${net} ${other} = 5.01 8.6`, 'points, then their values in order'],
    [any && `${any} off`, 'a part comes off the board'],
    [c && `${c} off sat minus left`, 'a part comes off, and how it sat'],
    [any && `${any} on same polarity`, 'a part goes on; polarity: its polarity was checked'],
    [any && `${any} out note not needed here`, 'a part stays off on purpose'],
    ['note flux under the chips', 'what was found'],
    ['symptom lamp stays dark when warm', 'what the unit does'],
    ['start ok', 'a start that came through; or the stage it does not reach'],
    [
      'run 12 of card 14 pressed in warm',
      'passes of the unit; errors, at and note where there are any',
    ],
    ['zero 0.04', 'what the ESR meter shows with its leads held together'],
    [c && `alone ${c} 82u 20ua tan 0.15`, 'a capacitor off the board, by itself'],
    ['code E4', 'a code that the unit shows'],
    [any && `condemn ${any} bulged`, 'a verdict; clear takes it off again'],
    ['leave board out, meter on it', 'where the work is left'],
    ['back', 'takes the last one back; again files it again'],
  ];
  return lines.flatMap(([line, words]) => (line ? [{ line, words }] : []));
}
