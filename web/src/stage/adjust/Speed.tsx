import { useState } from 'react';
import { drivenTurns, turnsByTone } from '@hanzai/core/adjust';
import { speedOfIndex, speedOfStrobe } from '@hanzai/core/check';
import { NumberFields } from '../../form/NumberFields';
import { numbersOf, type Typed } from '../../form/numbers';
import { Fold } from '../../ui/Fold';

const FIELDS = [
  ['index', 'Index period, ms'],
  ['flashes', 'Flashes a second'],
  ['bars', 'Bars that stand'],
  ['right', 'Right speed, a minute'],
  ['tone', 'Its tone, Hz'],
  ['heard', 'Tone heard, Hz'],
  ['motor', 'Motor, a minute'],
  ['small', 'Its pulley, mm'],
  ['large', 'Driven pulley, mm'],
  ['section', 'Belt, mm'],
] as const;
type Name = (typeof FIELDS)[number][0];

/** The speeds that follow from what was typed, each with the way it was found. */
export function speedsOf(
  typed: Readonly<Partial<Record<Name, number>>>,
): readonly { readonly way: string; readonly turns: number }[] {
  const { index, flashes, bars, right, tone, heard, motor, small, large, section = 0 } = typed;
  return [
    ...(index ? [{ way: 'by the index', turns: speedOfIndex(index / 1000) }] : []),
    ...(flashes && bars ? [{ way: 'by the strobe', turns: speedOfStrobe(bars, flashes / 2) }] : []),
    ...(right && tone && heard
      ? [{ way: 'by the tone', turns: turnsByTone(right, tone, heard) }]
      : []),
    ...(motor && small && large
      ? [{ way: 'by the pulleys', turns: drivenTurns(motor, small, large, section) }]
      : []),
  ];
}

/** Speed from index, strobe, tone or pulleys. Files nothing: the guided check of speed does. */
export function Speed() {
  const [typed, setTyped] = useState<Typed<Name>>({});
  const numbers = numbersOf(typed);
  const speeds = speedsOf(numbers);
  return (
    <Fold>
      <summary>Speed from index, strobe, tone or pulleys</summary>
      <NumberFields id="speed" fields={FIELDS} typed={typed} onType={setTyped} />
      <output aria-live="polite">
        {speeds.map(({ way, turns }) => (
          <p key={way}>
            <b className="mono">{turns.toFixed(1)}</b> a minute {way}
            {numbers.right
              ? `, ${(100 * (turns / numbers.right - 1)).toFixed(1)} % off ${numbers.right}`
              : ''}
          </p>
        ))}
      </output>
    </Fold>
  );
}
