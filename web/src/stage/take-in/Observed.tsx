import { recognise } from '@hanzai/core/block';
import { resolveMeasurement } from '@hanzai/core/instrument';
import { readingEntry } from '../../case/written-points';
import type { CaseState } from '../../case/use-case';
import { Button } from '../../ui/Button';
import { Panel } from '../../ui/Panel';
import { Rows } from '../../ui/Rows';
import { Actions } from '../../ui/FormRow';

/**
 * Turns the owner's words into what can be observed: known patterns of this kind of unit that they
 * may speak of, and what the board sheet knows how to predict.
 */
export function Observed({ state }: { state: CaseState }) {
  const { model, journal, index, view } = state;
  const words = [view.complaint, ...journal.symptoms.map(({ body }) => body.text)].join(' ');
  const taken = new Set(
    journal.blockEvents.flatMap(({ body }) => (body.kind === 'pattern' ? [body.name] : [])),
  );
  const proposals = model
    ? recognise(model, words)
        .filter(({ name }) => !taken.has(name))
        .slice(0, 3)
    : [];
  const recognised = journal.blockEvents.flatMap((entry) =>
    entry.body.kind === 'pattern' ? [{ id: entry.id, name: entry.body.name }] : [],
  );
  const observables = (index?.board.observables ?? []).slice(0, 8);
  const answers = new Map(
    journal.readings
      .filter(({ measurement }) => measurement.kind === 'symptom')
      .map((r) => [r.measurement.observable?.name, r]),
  );

  function answer(name: string, value: 'yes' | 'no'): void {
    const resolved = index && resolveMeasurement(index, '', 'symptom', name, '');
    const before = answers.get(name);
    if (before) state.append({ kind: 'retract', entry: before.entry.id });
    if (resolved?.ok) state.append(readingEntry(resolved.measurement, value, `${name} ${value}`));
  }

  if (proposals.length + recognised.length + observables.length === 0) return null;
  return (
    <Panel title="What can be observed" aside="say whether it is so: each answer is evidence">
      <Rows>
        {recognised.map(({ id, name }) => {
          const pattern = model?.patterns.find((one) => one.name === name);
          return (
            <li key={id}>
              <span>
                <b>{pattern?.seen ?? name}</b>
                <small>
                  {pattern
                    ? `usually ${pattern.suspects.map((block) => model!.blocks.find((b) => b.name === block)?.title.toLowerCase() ?? block).join(', ')}`
                    : ''}
                </small>
              </span>
              <Button
                look="quiet"
                onClick={() => state.append({ kind: 'retract', entry: id })}
                aria-label={`Take back: ${pattern?.seen ?? name}`}
              >
                Take back
              </Button>
            </li>
          );
        })}
        {proposals.map(({ name, seen, because }) => (
          <li key={name}>
            <span>
              {seen}?<small>{because}</small>
            </span>
            <Button
              look="quiet"
              onClick={() => state.append({ kind: 'pattern', name })}
              aria-label={`It is so: ${seen}`}
            >
              It is so
            </Button>
          </li>
        ))}
        {observables.map(({ name, title }) => {
          const value = answers.get(name)?.value;
          return (
            <li key={name}>
              <span>
                {title}
                {value !== undefined && <b>: {String(value)}</b>}
              </span>
              <Actions as="span">
                <Button
                  look="quiet"
                  onClick={() => answer(name, 'yes')}
                  aria-label={`${title}: yes`}
                >
                  Yes
                </Button>
                <Button look="quiet" onClick={() => answer(name, 'no')} aria-label={`${title}: no`}>
                  No
                </Button>
              </Actions>
            </li>
          );
        })}
      </Rows>
    </Panel>
  );
}
