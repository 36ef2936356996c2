import { format } from 'date-fns/format';
import { Button } from '../ui/Button';
import { Actions } from '../ui/FormRow';
import { Panel } from '../ui/Panel';
import { Rows } from '../ui/Rows';
import { Small } from '../ui/Words';
import style from './Patterns.module.css';
import type { PatternsState } from './use-patterns';

/** How far a pack may be believed, in words. */
const TRUST = [
  [0, 'not at all'],
  [0.25, 'a little'],
  [0.5, 'half'],
  [1, 'as our own'],
] as const;

/** The first letters of a workshop’s id are enough to tell two apart. */
const shortName = (workshop: string): string => workshop.slice(0, 8);

/** What other workshops learned: taken in, weighed, and shown where it does not meet with ours. */
export function Exchange({ state }: { state: PatternsState }) {
  const { packs, disagreements } = state.known;
  return (
    <Panel title="Other workshops" aside="counts alone: no owner, no serial number" framed>
      {packs.length === 0 && <Small>No pack has been taken in.</Small>}
      <Rows>
        {packs.map(({ workshop, madeAt, cases, trust, similarity }) => (
          <li key={workshop}>
            <span>
              <b className="mono">{shortName(workshop)}</b> {cases} cases, of{' '}
              {format(new Date(madeAt), 'd MMM yyyy')}
              <Small as="span"> {Math.round(100 * similarity)} % of its work is like ours</Small>
            </span>
            <label>
              <span className="visually-hidden">How far {shortName(workshop)} is believed</span>
              <select
                value={String(trust)}
                onChange={(event) =>
                  void state.changePack(workshop, { trust: Number(event.target.value) })
                }
              >
                {TRUST.map(([value, words]) => (
                  <option key={value} value={String(value)}>
                    believed {words}
                  </option>
                ))}
              </select>
            </label>
            <Button
              look="quiet"
              aria-label={`Set aside: ${shortName(workshop)}`}
              onClick={() => void state.changePack(workshop, { archived: true })}
            >
              Set aside
            </Button>
          </li>
        ))}
      </Rows>
      {disagreements.map(({ of, workshop, own, factor }) => (
        <p key={`${workshop} ${of}`}>
          <b>{of}</b>: here {own.toFixed(2)} times the table, at {shortName(workshop)}{' '}
          {factor.toFixed(2)} times. They do not meet, so only our own counts.
        </p>
      ))}
      <Actions>
        <a href="/api/patterns/packs" download="patterns.json">
          Save ours for others
        </a>
        <label className={style.file}>
          Take a pack in{' '}
          <input
            type="file"
            accept=".json,application/json"
            onChange={(event) => {
              const [file] = event.target.files ?? [];
              if (file) void file.text().then((text) => state.takePack(text));
              event.target.value = '';
            }}
          />
        </label>
      </Actions>
    </Panel>
  );
}
