import { format } from 'date-fns/format';
import { benchMinutes } from '@hanzai/core/bench';
import { type ProofStep } from '@hanzai/core/prove';
import { creditOf, overruledOf, stillSuspect } from '../../case/after-repair';
import type { Journal } from '../../case/journal';
import { proofWords } from '../../case/proof-words';
import type { ReportList } from '../../case/kind/definition';
import { kindOf } from '../../case/kinds';
import type { CaseState } from '../../case/use-case';
import {
  decibanText,
  weightWords,
  KIND_WORDS,
  minutesText,
  percent,
  pointsText,
  setupWords,
  valueText,
} from '../../case/wording';
import type { ReportFigures } from '../../workers/engine-messages';
import style from './Report.module.css';

const day = (iso: string): string => format(new Date(iso), 'd MMMM yyyy');

/**
 * The report as it is printed: complaint, findings, readings with their weight, parts, proof, time.
 */
export function Report({
  state,
  figures,
  pending,
  advice,
}: {
  state: CaseState;
  figures: ReportFigures;
  /** The weight of the readings is still being worked out. */
  pending: boolean;
  advice: string;
}) {
  const { view, journal, index } = state;
  const { proof } = state.progress;
  const tried = triedWords(journal);
  const credit = creditOf(journal);
  const suspect = stillSuspect(journal, index);
  const overruled = overruledOf(journal, index);
  const weighed = journal.readings.filter(({ entry }) => figures.readings[entry.id]);
  return (
    <article className={style.report}>
      <header>
        <p className={style.kind}>Repair report {view.number}</p>
        <h2>{view.title}</h2>
        <dl>
          <Fact name="Unit" value={view.unitModel} />
          <Fact name="Serial" value={view.serial} />
          <Fact name="Owner" value={view.owner} />
          <Fact name="Taken in" value={day(view.openedAt)} />
          <Fact name="Bench time" value={minutesText(benchMinutes(journal.moments))} />
          <Fact name="Board sheet" value={view.board?.content.title ?? ''} />
        </dl>
      </header>
      <Section title="Complaint">{view.complaint && <p>“{view.complaint}”</p>}</Section>
      <Section title="Symptoms and findings">
        <Lines of="findings" journal={journal} index={index} />
      </Section>
      <Section title="Tried before measuring">
        {tried.length > 0 && (
          <ul>
            {tried.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        )}
      </Section>
      <Section title="Readings that led to the verdict">
        {pending ? (
          <p role="status">Their weight is still being worked out …</p>
        ) : (
          weighed.length > 0 && (
            <table>
              <thead>
                <tr>
                  <th scope="col">points</th>
                  <th scope="col">how</th>
                  <th scope="col">read</th>
                  <th scope="col">sound board</th>
                  <th scope="col">
                    {figures.weightFor ? `weight for ${figures.weightFor}` : 'weight'}
                  </th>
                </tr>
              </thead>
              <tbody>
                {weighed.map(({ entry, by }) => {
                  const { body } = entry;
                  const figure = figures.readings[entry.id]!;
                  return (
                    <tr key={entry.id}>
                      <th scope="row">{pointsText(index, body.at, body.to)}</th>
                      <td>
                        {KIND_WORDS[body.quantity]}, {setupWords(body.setup)}
                        {by !== undefined && `, by ${by}`}
                      </td>
                      <td className="mono">{valueText(body.quantity, body.value)}</td>
                      <td className="mono">
                        {figure.expected} {figure.within ? '' : '(out of band)'}
                      </td>
                      <td className="mono">
                        {figure.weight === null
                          ? ''
                          : `${weightWords(figure.weight)} (${decibanText(figure.weight)})`}
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          )
        )}
      </Section>
      {journal.loose.length > 0 && (
        <Section title="Readings at points that no sheet has">
          <ul>
            {journal.loose.map(({ entry: { id, body } }) => (
              <li key={id}>
                {pointsText(undefined, body.at, body.to)}, {KIND_WORDS[body.quantity]},{' '}
                {setupWords(body.setup)}:{' '}
                <span className="mono">{valueText(body.quantity, body.value)}</span>
              </li>
            ))}
          </ul>
        </Section>
      )}
      <Section title="Verdict and parts">
        <Lines of="verdict" journal={journal} index={index} />
      </Section>
      {credit.length > 0 && (
        <Section title="What cured it">
          <ul>
            {credit.map(({ words, share, word }) => (
              <li key={words}>
                {words}: {word} ({percent(share)} of the credit)
              </li>
            ))}
          </ul>
        </Section>
      )}
      {suspect.length > 0 && (
        <Section title="What remains suspect">
          <p>Of the same kind and age as what failed, and not replaced: {suspect.join(', ')}.</p>
        </Section>
      )}
      {overruled.length > 0 && (
        <Section title="Done against advice, and why">
          <ul>
            {overruled.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ul>
        </Section>
      )}
      {(journal.decision || journal.consents.length > 0 || journal.extent) && (
        <Section title="Decided">
          <Lines of="decided" journal={journal} index={index} />
        </Section>
      )}
      {journal.powered.length > 0 && (
        <Section title="Powered as it was, on purpose">
          <Lines of="powered" journal={journal} index={index} />
        </Section>
      )}
      <Section title="Proof">
        {proof.length > 0 && (
          <table>
            <thead>
              <tr>
                <th scope="col">step</th>
                <th scope="col">must show</th>
                <th scope="col">before</th>
                <th scope="col">after</th>
                <th scope="col">state</th>
              </tr>
            </thead>
            <tbody>
              {proof.map((step) => (
                <ProofRow key={step.key} step={step} index={index} />
              ))}
            </tbody>
          </table>
        )}
      </Section>
      {advice && (
        <Section title="Advice">
          <p>{advice}</p>
        </Section>
      )}
      <footer>
        Weights are decibans: +10 dB makes the odds ten times higher. Bands allow for part tolerance
        and meter accuracy, about 95 %.
      </footer>
    </article>
  );
}

function Fact({ name, value }: { name: string; value: string }) {
  if (!value) return null;
  return (
    <div>
      <dt>{name}</dt>
      <dd>{value}</dd>
    </div>
  );
}

function counted(count: number, thing: string): string {
  return `${count} ${thing}${count === 1 ? '' : 's'}`;
}

/**
 * What was done before the meter came out: starts, swaps, checks, first aid, what was acknowledged.
 */
function triedWords(journal: Journal): readonly string[] {
  const { starts, acknowledged } = journal;
  const clean = starts.filter(({ body }) => body.failedAt === null).length;
  const [here, away] = [
    acknowledged.filter(({ notHere }) => !notHere),
    acknowledged.filter(({ notHere }) => notHere),
  ];
  const namesOf = (of: typeof acknowledged): string =>
    [...new Set(of.map(({ who }) => who))].join(', ');
  return [
    ...(starts.length > 0
      ? [`${counted(starts.length, 'start')} written down, ${clean} of them clean`]
      : []),
    ...linesOf('tried', journal, undefined).map(({ line }) => line),
    ...(here.length > 0
      ? [`${counted(here.length, 'hazard')} acknowledged by ${namesOf(here)}`]
      : []),
    ...(away.length > 0
      ? [`${counted(away.length, 'hazard')} of its kind not on this unit, says ${namesOf(away)}`]
      : []),
  ];
}

/** The lines of one list of the report, in the order entered. */
function linesOf(
  list: ReportList,
  { standing }: Journal,
  index: CaseState['index'],
): readonly { readonly id: string; readonly line: string }[] {
  return standing.flatMap(({ id, body }) => {
    const { report } = kindOf(body.kind);
    const line =
      typeof report === 'object' && report.list === list ? report.line(body, index) : undefined;
    return line ? [{ id, line }] : [];
  });
}

function Lines({
  of,
  journal,
  index,
}: {
  of: ReportList;
  journal: Journal;
  index: CaseState['index'];
}) {
  const lines = linesOf(of, journal, index);
  if (lines.length === 0) return <p className={style.none}>nothing recorded</p>;
  return (
    <ul>
      {lines.map(({ id, line }) => (
        <li key={id}>{line}</li>
      ))}
    </ul>
  );
}

function Section({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <section>
      <h3>{title}</h3>
      {children || <p className={style.none}>nothing recorded</p>}
    </section>
  );
}

const STATE_WORDS = { open: 'not done', pass: 'pass', fail: 'FAIL' } as const;

function ProofRow({ step, index }: { step: ProofStep; index: CaseState['index'] }) {
  const { what, how, must, before, after } = proofWords(step, index);
  return (
    <tr>
      <th scope="row">{how === '' ? what : `${what}, ${how}`}</th>
      <td className="mono">
        {must.display}
        {must.band && ` (${must.band})`}
      </td>
      <td className="mono">{before}</td>
      <td className="mono">{after}</td>
      <td>{STATE_WORDS[step.state]}</td>
    </tr>
  );
}
