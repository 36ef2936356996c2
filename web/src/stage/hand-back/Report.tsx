import { format } from 'date-fns/format';
import { FINDING_RULES, type ProofStep } from '@hanzai/core/bench';
import type { Journal } from '../../case/journal';
import { proofWords } from '../../case/proof-words';
import { COURSE_WORDS } from '../../case/Decision';
import type { CaseState } from '../../case/use-case';
import {
  decibanText,
  weightWords,
  KIND_WORDS,
  ledgerWords,
  minutesText,
  placeText,
  pointsText,
  setupWords,
  valueText,
} from '../../case/wording';
import type { ReportFigures } from '../../server/case/report';
import style from './Report.module.css';

const day = (iso: string): string => format(new Date(iso), 'd MMMM yyyy');

/**
 * The report as it is printed: complaint, findings, readings with their weight, parts, proof, time.
 */
export function Report({
  state,
  figures,
  advice,
}: {
  state: CaseState;
  figures: ReportFigures;
  advice: string;
}) {
  const { view, journal, index } = state;
  const { proof } = state.progress;
  const tried = triedWords(journal);
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
          <Fact name="Bench time" value={minutesText(figures.minutes)} />
          <Fact name="Board sheet" value={view.board?.content.title ?? ''} />
        </dl>
      </header>
      <Section title="Complaint">{view.complaint && <p>“{view.complaint}”</p>}</Section>
      <Section title="Symptoms and findings">
        {journal.symptoms.length + journal.findings.length + journal.seen.length > 0 && (
          <ul>
            {[...journal.symptoms, ...journal.findings].map(({ id, body }) => (
              <li key={id}>{body.text}</li>
            ))}
            {journal.seen.map(({ id, body }) => (
              <li key={id}>
                {FINDING_RULES[body.what].title}
                {body.text && `: ${body.text}`}
              </li>
            ))}
          </ul>
        )}
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
        {weighed.length > 0 && (
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
              {weighed.map(({ entry }) => {
                const { body } = entry;
                const figure = figures.readings[entry.id]!;
                return (
                  <tr key={entry.id}>
                    <th scope="row">{pointsText(index, body.at, body.to)}</th>
                    <td>
                      {KIND_WORDS[body.quantity]}, {setupWords(body.setup)}
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
        )}
      </Section>
      <Section title="Verdict and parts">
        {journal.condemned.length + journal.ledger.length > 0 && (
          <ul>
            {journal.condemned.map(({ id, body }) => (
              <li key={id}>
                <b className="mono">{placeText(index, body.ref)}</b> condemned: {body.reason}
              </li>
            ))}
            {journal.ledger.map((line) => (
              <li key={line.entry.id}>
                <b className="mono">{placeText(index, line.ref)}</b> {ledgerWords(line)}{' '}
                <span className="mono">{line.value}</span>
                {line.polarityChecked && ', polarity checked'}
                {line.note && `, ${line.note}`}
              </li>
            ))}
          </ul>
        )}
      </Section>
      {journal.decision && (
        <Section title="Decided">
          <p>
            {COURSE_WORDS[journal.decision.body.course]}: {journal.decision.body.reason}
          </p>
        </Section>
      )}
      {journal.powered.length > 0 && (
        <Section title="Powered as it was, on purpose">
          <ul>
            {journal.powered.map(({ id, body }) => (
              <li key={id}>
                {body.refs.length > 0 && `without ${body.refs.join(', ')}: `}
                {body.reason}
              </li>
            ))}
          </ul>
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
function triedWords({ starts, blockEvents, acknowledged }: Journal): readonly string[] {
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
    ...blockEvents.flatMap(({ body }) => {
      if (body.kind === 'trial') return [`${body.title}: ${body.passed} good, ${body.failed} bad`];
      if (body.kind === 'check') return [`${body.title}: ${body.good ? 'good' : 'bad'}`];
      if (body.kind === 'code') return [`code ${body.code}`];
      return body.kind === 'aid' ? [`first aid: ${body.title}`] : [];
    }),
    ...(here.length > 0
      ? [`${counted(here.length, 'hazard')} acknowledged by ${namesOf(here)}`]
      : []),
    ...(away.length > 0
      ? [`${counted(away.length, 'hazard')} of its kind not on this unit, says ${namesOf(away)}`]
      : []),
  ];
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
