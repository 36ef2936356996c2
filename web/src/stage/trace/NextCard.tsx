import type { ReactNode } from 'react';
import type { BoardIndex } from '@hanzai/core/board';
import { Caution } from '../../case/Caution';
import {
  KIND_WORDS,
  minutesText,
  oddsWords,
  percent,
  pointsText,
  setupWords,
  tellsWords,
} from '../../case/wording';
import { Button } from '../../ui/Button';
import { HatchBar } from '../../ui/HatchBar';
import type { NextStep, Proposal } from '../../workers/engine-messages';
import { cautionFor, isHead } from './caution-for';
import { SchoolsTable } from './SchoolsTable';
import { WhyThis } from './WhyThis';
import style from './NextCard.module.css';

interface Props {
  readonly index: BoardIndex;
  readonly next: NextStep | undefined;
  readonly busy: number | undefined;
  readonly chosen: Proposal | undefined;
  readonly onChoose: (key: string) => void;
  readonly onBench: () => void;
  readonly onCondemn: (ref: string) => void;
  /** The part is the mechanism itself. */
  readonly onFinished: (ref: string) => void;
  /** Parts with a verdict on them already. */
  readonly condemned: ReadonlySet<string>;
  readonly proveHref: string;
  readonly repairHref: string;
  /** Whether something is held back from being proposed. */
  readonly limited: boolean;
  /** What else can be done about the chosen reading. */
  readonly more: ReactNode;
}

/** Where the probes go next, what should be there, and what it would tell. */
export function NextCard({
  index,
  next,
  busy,
  chosen,
  onChoose,
  onBench,
  onCondemn,
  onFinished,
  condemned,
  proveHref,
  repairHref,
  limited,
  more,
}: Props) {
  if (!next)
    return (
      <section className={style.card}>
        {busy === undefined ? 'Getting ready …' : <Working share={busy} />}
      </section>
    );
  return (
    <section className={style.card} aria-label="What to do next">
      {busy !== undefined && <Working share={busy} hasFirst={next.provisional === true} />}
      {next.state === 'replace' && !next.provisional && next.replace[0] && (
        <Verdict
          index={index}
          {...next.replace[0]}
          isCondemned={condemned.has(next.replace[0].ref)}
          onCondemn={onCondemn}
          onFinished={onFinished}
          repairHref={repairHref}
          limited={limited}
        />
      )}
      {next.state === 'verify' && !next.provisional && (
        <div className={style.verdict}>
          <h2>Nothing looks wrong any more</h2>
          <p>
            <a href={proveHref}>Prove it</a>, or go on measuring below.
          </p>
        </div>
      )}
      {chosen && !(next.exhausted && next.touches.length > 0) && (
        <Chosen
          index={index}
          proposal={chosen}
          onBench={onBench}
          settled={next.state !== 'measure'}
          rest={next.proposals.filter(({ key }) => key !== chosen.key)}
          more={more}
        />
      )}
      {next.exhausted ? (
        <div className={style.exhausted}>
          <p className={style.lead}>No reading tells more</p>
          <p>
            {limited
              ? 'Of what may be proposed nothing tells more; what is held back was not weighed. Beside that'
              : 'Every point that a probe reaches was weighed, in every state that this sheet knows. What'}{' '}
            it would take:
          </p>
        </div>
      ) : (
        !chosen && next.state === 'measure' && <p>What is left to read tells next to nothing.</p>
      )}
      {next.touches.length > 0 && (
        <ul className={style.touches} aria-label="Without a meter">
          {next.touches.map((touch) => (
            <Touched key={touch.title} index={index} touch={touch} />
          ))}
        </ul>
      )}
      {next.takes.length > 0 && (
        <ul className={style.takes} aria-label="What it would take">
          {next.takes.map((words) => (
            <li key={words}>{words}</li>
          ))}
        </ul>
      )}
      {next.proposals.length > 1 && (
        <More title={`Other readings worth taking (${next.proposals.length - 1})`}>
          <ul>
            {next.proposals
              .filter(({ key }) => key !== chosen?.key)
              .map((p) => (
                <li key={p.key}>
                  <button type="button" onClick={() => onChoose(p.key)}>
                    <span className="mono">{pointsText(index, p.at, p.to)}</span>
                    <small>
                      {KIND_WORDS[p.kind]}, {setupWords(p.setup)} · tells {tellsWords(p.gainBits)},{' '}
                      {minutesText(p.minutes)}
                    </small>
                  </button>
                </li>
              ))}
          </ul>
        </More>
      )}
      <Work actions={next.actions} schools={next.schools} />
    </section>
  );
}

/**
 * Enough is measured: replace a part, or, where the part is the mechanism itself, decide whether
 * the job goes on.
 */
function Verdict({
  index,
  ref: refdes,
  probability,
  isCondemned,
  onCondemn,
  onFinished,
  repairHref,
  limited,
}: {
  index: BoardIndex;
  ref: string;
  probability: number;
  isCondemned: boolean;
  onCondemn: (ref: string) => void;
  onFinished: (ref: string) => void;
  repairHref: string;
  limited: boolean;
}) {
  const finished = (index.replaceable.get(refdes) ?? []).some(isHead);
  return (
    <div className={style.verdict}>
      <h2>
        Enough measured: {finished ? '' : 'replace '}
        <span className="mono">{refdes}</span>
        {finished && ' is finished'}
      </h2>
      <p>
        {oddsWords(probability)} sure; no reading {limited ? 'that may be proposed' : 'left'} is
        worth more than the work itself.
      </p>
      {finished && (
        <p>
          A head with a bad winding is not mended and hardly to be had alone. Touch its terminals
          once more, at the head itself; then decide whether the job goes on.
        </p>
      )}
      {finished && (
        <Button look="main" onClick={() => onFinished(refdes)}>
          It is finished: decide
        </Button>
      )}
      {!finished &&
        (isCondemned ? (
          <p>
            It is condemned: <a href={repairHref}>repair it</a>.
          </p>
        ) : (
          <Button look="main" onClick={() => onCondemn(refdes)}>
            Condemn {refdes}
          </Button>
        ))}
    </div>
  );
}

/** Something to do without a meter, and the reading that says most after it. */
function Touched({ index, touch }: { index: BoardIndex; touch: NextStep['touches'][number] }) {
  const { title, caution, at, to, kind, setup, minutes, gainBits, prospects } = touch;
  return (
    <li>
      <b>{title}</b>, then {KIND_WORDS[kind]} {pointsText(index, at, to)}, {setupWords(setup)}
      <small>
        {minutesText(minutes)}, putting it back included ·{' '}
        <span title={`${gainBits.toFixed(2)} bit`}>tells {tellsWords(gainBits)}</span>
        {prospects
          .slice(0, 2)
          .map(({ display, leading }) =>
            leading[0] ? ` · ${display}: ${leading[0].ref} ${percent(leading[0].probability)}` : '',
          )}
      </small>
      <small className={style.harm}>{caution}</small>
    </li>
  );
}

/**
 * Work that could end it without a further reading, beside how long it takes when the readings come
 * first.
 */
function Work({ actions, schools }: Pick<NextStep, 'actions' | 'schools'>) {
  const work = actions.filter(({ kind }) => kind !== 'measure');
  const reading = actions.find(({ kind }) => kind === 'measure');
  if (work.length === 0) return null;
  return (
    <More title="Or act now: what ends it soonest">
      {reading && (
        <p className={style.first}>
          Measured first, a proven repair is some {minutesText(Math.round(reading.expectedMinutes))}{' '}
          away. With this work first:
        </p>
      )}
      {schools && <SchoolsTable schools={schools} />}
      <ol className={style.actions}>
        {work.map(({ title, cures, minutes, expectedMinutes }) => (
          <li key={title}>
            {title}
            <small>
              {minutesText(minutes)}, cures with {percent(cures)} · a proven repair some{' '}
              {minutesText(Math.round(expectedMinutes))} away
            </small>
          </li>
        ))}
      </ol>
    </More>
  );
}

/**
 * A list that opens under its title and scrolls by itself, so that the line-up stays in sight;
 * opening one closes the other.
 */
function More({ title, children }: { title: string; children: ReactNode }) {
  return (
    <details name="more-to-do" className={style.others}>
      <summary>{title}</summary>
      <div className={style.list} role="region" aria-label={title} tabIndex={0}>
        {children}
      </div>
    </details>
  );
}

function Working({ share, hasFirst = false }: { share: number; hasFirst?: boolean }) {
  return (
    <p className={style.working} role="status">
      {hasFirst
        ? 'A first look by the leading suspects; the rest is being weighed'
        : 'Weighing what to measure next'}{' '}
      … {Math.round(share * 100)} %
    </p>
  );
}

function Chosen({
  index,
  proposal,
  onBench,
  settled,
  rest,
  more,
}: {
  index: BoardIndex;
  proposal: Proposal;
  onBench: () => void;
  settled: boolean;
  rest: readonly Proposal[];
  more: ReactNode;
}) {
  const { at, to, kind, setup, expected, gainBits, minutes, accessMinutes, prospects } = proposal;
  return (
    <div className={style.chosen}>
      <p className={style.lead}>{settled ? 'Or measure on' : 'Measure next'}</p>
      <p className={style.points}>{pointsText(index, at, to)}</p>
      <p className={style.how}>
        <strong>{KIND_WORDS[kind]}</strong>, {setupWords(setup)} · {minutesText(minutes)}
        {accessMinutes > 0 && `, of it ${minutesText(accessMinutes)} to open up`} ·{' '}
        <span title={`${gainBits.toFixed(2)} bit`}>tells {tellsWords(gainBits)}</span>
      </p>
      <p className={style.expect}>
        A sound board shows <span className="mono">{expected.display}</span>
        {expected.band && <small> ({expected.band})</small>}
      </p>
      <ul className={style.prospects} aria-label="How it may come out">
        {prospects.map((p) => (
          <li key={p.display + String(p.probability)}>
            <span className={style.outcome}>{p.display}</span>
            <span className={style.chance}>
              <HatchBar
                share={p.probability}
                height={12}
                label={`${percent(p.probability)} likely`}
              />
            </span>
            <span className={style.leading}>
              {p.leading.length > 0
                ? `then ${p.leading.map(({ ref, probability }) => `${ref} ${oddsWords(probability)}`).join(', ')}`
                : 'then many alike'}
            </span>
          </li>
        ))}
      </ul>
      <Caution of={cautionFor(index, proposal)} />
      <Button onClick={onBench}>Bench mode (Alt+B)</Button>
      <div className={style.choices}>
        <WhyThis index={index} proposal={proposal} rest={rest} />
        {more}
      </div>
    </div>
  );
}
