import { useMemo, useState } from 'react';
import type { BoardIndex, Part } from '@hanzai/core/board';
import { typicalEsrOhm } from '@hanzai/core/device';
import { formatQuantity } from '@hanzai/core/quantity';
import {
  besidePart,
  isOnPlane,
  landings,
  reworkPlan,
  TORN_CONNECTOR,
  type LiftSchool,
  type ReworkStep,
} from '@hanzai/core/rework';
import type { CaseState } from '../../case/use-case';
import { keep, readKept } from '../../store/kept';
import { OneOf } from '../../ui/Choices';
import { Field } from '../../ui/Field';
import { Fold } from '../../ui/Fold';
import { Rows } from '../../ui/Rows';
import { Table } from '../../ui/Table';
import { Small } from '../../ui/Words';

const KEY = 'hanzai-lift-school';
/** How near a finding is to count for a part, mm. */
const NEAR_MM = 12;

/** What was seen beside a part, as far as the work depends on it. */
export function seenAt(state: CaseState, part: Part): { leaked: boolean; corroded: boolean } {
  const near = state.journal.seen.filter(({ body: { at } }) => {
    if (!at || !part.positionMm) return false;
    return Math.hypot(at.xMm - part.positionMm[0], at.yMm - part.positionMm[1]) <= NEAR_MM;
  });
  return {
    leaked: near.some(({ body }) => body.what === 'leak'),
    corroded: near.some(({ body }) => body.what === 'crust'),
  };
}

/** How a part comes off and goes on, what to shield, and where to go where a pad is lost. */
export function ReworkCard({
  state,
  index,
  part,
}: {
  state: CaseState;
  index: BoardIndex;
  part: Part;
}) {
  const [school, setSchool] = useState<LiftSchool>(() =>
    readKept(KEY) === 'hot-air' ? 'hot-air' : 'iron',
  );
  const plan = useMemo(
    () => reworkPlan(index, part, school, seenAt(state, part)),
    [index, part, school, state],
  );
  return (
    <Fold>
      <summary>How {part.ref} comes off and goes on</summary>
      <OneOf
        name={`school-${part.ref}`}
        legend="With"
        choices={[
          { value: 'iron', words: 'the iron' },
          { value: 'hot-air', words: 'hot air' },
        ]}
        value={school}
        onChange={(next) => {
          setSchool(next);
          keep(KEY, next);
        }}
      />
      <Steps title="Off" steps={plan.off} />
      <Steps title="On" steps={plan.on} />
      {plan.keepOut.length > 0 && (
        <>
          <h3>Keep out</h3>
          <Rows>
            {plan.keepOut.slice(0, 8).map(({ ref, mm, why }) => (
              <li key={ref}>
                <span>
                  <b className="mono">{ref}</b> {mm.toFixed(1)} mm away: {why}
                </span>
              </li>
            ))}
          </Rows>
        </>
      )}
      <Small>{plan.otherSchool} Common practice, no published source.</Small>
      <LostPad state={state} index={index} part={part} />
      {part.kind === 'connectorPin' && <Steps title="A torn connector" steps={TORN_CONNECTOR} />}
    </Fold>
  );
}

function Steps({ title, steps }: { title: string; steps: readonly ReworkStep[] }) {
  return (
    <>
      <h3>{title}</h3>
      <Rows as="ol">
        {steps.map(({ words, caution, check }) => (
          <li key={words}>
            <span>
              {words}
              {check && (
                <>
                  {' '}
                  <b>Check:</b> {check.words}.
                </>
              )}
              {caution && (
                <>
                  {' '}
                  <em>{caution}</em>
                </>
              )}
            </span>
          </li>
        ))}
      </Rows>
    </>
  );
}

const BESIDE_WORDS = {
  nothing: 'does not matter beside the part',
  mind: 'matters beside the part: as short as can be',
  'too long': 'more than the part itself: too long',
  'not judged': 'beside the part not judged',
} as const;

/** Ohms that a part has by itself at 100 kHz, where a wire to it is to be small beside them. */
function ownOhm(part: Part): number | undefined {
  if (part.kind === 'capacitor') return part.esrOhm ?? typicalEsrOhm(part);
  return part.kind === 'resistor' ? part.resistanceOhm : undefined;
}

/** A pad is gone: the nearest places on its net, and what a wire to each means. */
function LostPad({ state, index, part }: { state: CaseState; index: BoardIndex; part: Part }) {
  const [pin, setPin] = useState('');
  const at = Number(pin) - 1;
  const suspects = new Set([
    ...state.journal.condemned.map(({ body }) => body.ref),
    ...state.journal.absent,
  ]);
  const places = pin === '' ? [] : landings(index, part, at, suspects).slice(0, 4);
  return (
    <>
      <Field id={`pad-${part.ref}`} label="A pad is gone">
        <select id={`pad-${part.ref}`} value={pin} onChange={(event) => setPin(event.target.value)}>
          <option value="">none</option>
          {part.pins.map((net, i) => (
            <option key={i} value={String(i + 1)}>
              {part.ref}.{i + 1}, {net}
            </option>
          ))}
        </select>
      </Field>
      {pin !== '' && places.length === 0 && (
        <Small>
          No place of another pin on {part.pins[at]} is known: give the parts their places on the
          sheet, or follow the track by eye to the next joint.
        </Small>
      )}
      {places.length > 0 && (
        <Table asCards>
          <thead>
            <tr>
              <th scope="col">go to</th>
              <th scope="col">wire (30 gauge)</th>
              <th scope="col">ohms</th>
              <th scope="col">henries</th>
              <th scope="col">it means</th>
            </tr>
          </thead>
          <tbody>
            {places.map(({ pin: to, jumper, isOnSuspect }) => (
              <tr key={to}>
                <th scope="row" className="mono">
                  {to}
                </th>
                <td className="mono">{jumper.lengthMm.toFixed(0)} mm</td>
                <td className="mono">{formatQuantity(jumper.ohm, 'ohm', 2)}</td>
                <td className="mono">{formatQuantity(jumper.henry, 'H', 2)}</td>
                <td>
                  {BESIDE_WORDS[besidePart(jumper, ownOhm(part))]}; carries{' '}
                  {formatQuantity(jumper.ampere, 'A', 2)}
                  {isOnSuspect && '; that part may come off itself'}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      {pin !== '' && isOnPlane(index, part, at) && (
        <Small>
          A borrowed ground is proven first: beep from the place to the part’s own ground with the
          wire off. Two grounds side by side need not be one net.
        </Small>
      )}
      {places.length > 0 && (
        <Small>Wire by ASTM B258 and IEC 60028, henries by Rosa; amperes common practice.</Small>
      )}
    </>
  );
}
