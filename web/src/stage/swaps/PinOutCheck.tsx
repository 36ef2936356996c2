import { useState } from 'react';
import { comparePinOuts, PinUse, type ConnectorPin, type PinClash } from '@hanzai/core/board';
import { DEFER } from '@hanzai/core/bench';
import { Field } from '../../ui/Field';
import { Notice } from '../../ui/Notice';
import { Stack } from '../../ui/Columns';
import { Small } from '../../ui/Words';
import { FormRow } from '../../ui/FormRow';
import { Rows } from '../../ui/Rows';
import { AsEvidence, type Compared } from './AsEvidence';
import tone from '../../ui/Words.module.css';

const EXAMPLE_UNIT =
  '1 +5V supply 5\n2 GND ground\n3 READY open-collector\n4 STEP input\n5 TYPE identity';
const EXAMPLE_HOST = '1 GND ground\n2 STEP output\n3 READY input pull-up\n4 +5V supply 5';

/**
 * Reads one side: a pin a line, `4 STEP input`, `1 +5V supply 5`, `3 READY open-collector pull-up`.
 */
function readSide(text: string): { pins: ConnectorPin[]; problems: string[] } {
  const pins: ConnectorPin[] = [];
  const problems: string[] = [];
  text.split('\n').forEach((line, i) => {
    const [pin, name, use, ...rest] = line.trim().split(/\s+/);
    if (!pin) return;
    const parsed = PinUse.safeParse(use);
    const volt = rest
      .map((word) => Number(word.replace(/v$/i, '')))
      .find((value) => Number.isFinite(value));
    if (!name || !parsed.success || pin.length > 8)
      problems.push(
        `line ${i + 1}, “${line.trim()}”: expected pin, name and one of ${PinUse.options.join(', ')}`,
      );
    else if (pins.some((other) => other.pin === pin))
      problems.push(`line ${i + 1}: pin ${pin} is there twice`);
    else
      pins.push({
        pin,
        name,
        use: parsed.data,
        ...(volt === undefined ? {} : { volt }),
        ...(rest.includes('pull-up') ? { pullUp: true } : {}),
      });
  });
  return { pins, problems };
}

/**
 * Two connector tables side by side: what a straight cable would do, the wiring that works, what to
 * measure before the unit is attached.
 */
export function PinOutCheck({ onFile }: { onFile: (found: Compared) => string | undefined }) {
  const [unit, setUnit] = useState(EXAMPLE_UNIT);
  const [host, setHost] = useState(EXAMPLE_HOST);
  const [a, b] = [readSide(unit), readSide(host)];
  const problems = [
    ...a.problems.map((text) => `unit, ${text}`),
    ...b.problems.map((text) => `host, ${text}`),
  ];
  const ready = a.pins.length > 0 && b.pins.length > 0;
  const said = ready
    ? comparePinOuts({ title: 'unit', pins: a.pins }, { title: 'host', pins: b.pins })
    : undefined;
  return (
    <Stack>
      <Small>
        A pin a line: number, name, use, volts of a supply, “pull-up” where there is one. Uses:{' '}
        {PinUse.options.join(', ')}.
      </Small>
      <FormRow>
        <Field id="pins-unit" label="Unit">
          <textarea
            id="pins-unit"
            className="mono"
            rows={7}
            spellCheck={false}
            value={unit}
            onChange={(event) => setUnit(event.target.value)}
          />
        </Field>
        <Field id="pins-host" label="Host or cable">
          <textarea
            id="pins-host"
            className="mono"
            rows={7}
            spellCheck={false}
            value={host}
            onChange={(event) => setHost(event.target.value)}
          />
        </Field>
      </FormRow>
      {problems.length > 0 && <Notice look="attention">{problems.join('; ')}.</Notice>}
      {said && (
        <>
          {said.clashes.length === 0 && (
            <Notice look="good">A straight cable does no harm and leaves nothing open.</Notice>
          )}
          <Rows>
            {said.clashes.map(({ pin, level, words }) => (
              <li key={`${pin} ${words}`}>
                <span>
                  <b
                    className={
                      level === 'harm' ? tone.harm : level === 'fault' ? tone.attention : undefined
                    }
                  >
                    {level === 'harm' ? 'destroys' : level === 'fault' ? 'fails' : 'look'}
                  </b>{' '}
                  pin <b className="mono">{pin}</b>: {words}
                </span>
              </li>
            ))}
          </Rows>
          <h3>Wiring</h3>
          <Rows as="ol">
            {said.wiring.map(({ from, to, words }) => (
              <li key={from}>
                <span>
                  <b className="mono">
                    {from} → {to ?? 'cut'}
                  </b>{' '}
                  {words}
                </span>
              </li>
            ))}
          </Rows>
          <h3>Measure before it is attached</h3>
          <ul>
            {said.measureFirst.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
          <Notice look="harm" title="Mind:">
            {DEFER}
          </Notice>
          <AsEvidence onFile={onFile} found={comparedPins(said.clashes)} />
        </>
      )}
    </Stack>
  );
}

/** What two pin-outs say of the cable between them: a note alone is nothing against it. */
function comparedPins(clashes: readonly PinClash[]): Compared {
  const bad = clashes.filter(({ level }) => level !== 'note');
  return {
    good: bad.length === 0,
    words: `pin-out, with a straight cable: ${bad.map(({ pin, words }) => `${pin} ${words}`).join('; ') || 'nothing clashes'}`,
  };
}
