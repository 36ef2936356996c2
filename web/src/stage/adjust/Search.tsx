import { lazy, Suspense, useMemo, useState } from 'react';
import { nameKey } from '@hanzai/core/board';
import { bestOf, nextSetting, scoreOf, type Axis, type Tried } from '@hanzai/core/adjust';
import { adjustmentsOf, degreesWords, touchOf } from '../../case/kind/adjusting';
import type { Journal } from '../../case/journal';
import type { CaseState } from '../../case/use-case';
import { NumberFields } from '../../form/NumberFields';
import { numbersOf, type Typed } from '../../form/numbers';
import { Button } from '../../ui/Button';
import { AnyOf } from '../../ui/Choices';
import { Panel } from '../../ui/Panel';
import { Rows } from '../../ui/Rows';
import { Small } from '../../ui/Words';
import type { ProposedTurn } from './TurnForm';

const SearchChart = lazy(() => import('./SearchChart'));

/** What a search steps by where nothing else is said, degrees. Common practice, no published source. */
const STEP = { first: 20, least: 2 };
/** How far from as found a search goes, degrees: half of the way of a pot of one turn. */
const REACH = 135;

const FIELDS = [
  ['step', 'First step, °'],
  ['play', 'Play, °'],
] as const;
type Name = (typeof FIELDS)[number][0];

/**
 * Settings that were tried with how they did, by the axes chosen: degrees from as found. The first
 * is as found; where nobody said how it did then, it counts as reading nothing.
 */
export function triedOf(journal: Journal, axes: readonly string[]): readonly Tried[] {
  const at = axes.map(() => 0);
  const tried: Tried[] = [{ at: [...at], score: 0 }];
  for (const { body } of journal.turned) {
    const axis = axes.findIndex((ref) => nameKey(ref) === nameKey(body.ref));
    if (axis >= 0) at[axis]! += body.degrees;
    const score = scoreOf(touchOf(body).outcome);
    if (score !== undefined) tried.push({ at: [...at], score });
  }
  return tried;
}

/** Settings that work together, searched: the next proposed, by steps and then by a simplex. */
export function Search({
  state,
  onPropose,
}: {
  state: CaseState;
  onPropose: (turn: ProposedTurn) => void;
}) {
  const { journal } = state;
  const names = journal.asFound.map(({ body }) => body.ref);
  const [chosen, setChosen] = useState<readonly string[]>();
  const [typed, setTyped] = useState<Typed<Name>>({ step: '20', play: '0' });
  const axes = useMemo(
    () => (chosen ?? names).filter((ref) => names.includes(ref)),
    [chosen, names],
  );
  const { step = STEP.first, play = 0 } = numbersOf(typed);
  const found = useMemo(() => {
    const tried = triedOf(journal, axes);
    const made: Axis[] = axes.map((ref) => ({
      ref,
      least: -REACH,
      most: REACH,
      firstStep: step,
      leastStep: STEP.least,
      backlash: play,
    }));
    const { touches } = adjustmentsOf(journal);
    const now = axes.map((ref) =>
      touches
        .filter((touch) => nameKey(touch.ref) === nameKey(ref))
        .reduce((sum, { degrees }) => sum + degrees, 0),
    );
    return { tried, best: bestOf(tried), next: nextSetting(made, tried, now) };
  }, [journal, axes, step, play]);
  if (names.length === 0) return null;
  const { tried, best, next } = found;
  return (
    <Panel title="Search" aside="you say how it does, the next setting is proposed" framed>
      {names.length > 1 && (
        <AnyOf
          legend="What goes together"
          choices={names.map((name) => ({ value: name, words: name }))}
          value={axes}
          onChange={setChosen}
        />
      )}
      <NumberFields id="search" fields={FIELDS} typed={typed} onType={setTyped} />
      {axes.length === 0 ? (
        <Small>Choose what is turned.</Small>
      ) : next ? (
        <>
          <p>
            <b>Next:</b> {next.why}.
          </p>
          <Rows as="ol">
            {next.moves.map(({ ref, degrees }, i) => (
              <li key={`${ref}${i}`}>
                <span>
                  <b className="mono">{ref}</b> {degreesWords(degrees)}
                </span>
                <Button look="quiet" onClick={() => onPropose({ ref, degrees })}>
                  Into the form
                </Button>
              </li>
            ))}
          </Rows>
        </>
      ) : (
        <Small>No step left that is worth making: go to the best, or leave it.</Small>
      )}
      {best && tried.length > 1 && (
        <>
          <Small>
            Best of {tried.length}:{' '}
            {axes.map((ref, i) => `${ref} ${Math.round(best.at[i]!)}°`).join(', ')}
            {' from as found.'}
          </Small>
          <Suspense fallback={null}>
            <SearchChart axes={axes} tried={tried} />
          </Suspense>
        </>
      )}
    </Panel>
  );
}
