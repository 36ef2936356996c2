import type { BoardIndex } from '@hanzai/core/board';
import { formatQuantity } from '@hanzai/core/quantity';
import type { Circumstances } from '../../case/engine-request';
import type { CaseState } from '../../case/use-case';
import type { EngineState } from '../../case/use-engine';
import { Button } from '../../ui/Button';
import { Notice } from '../../ui/Notice';
import type { Limits, Proposal } from '../../workers/engine-messages';
import { Ahead } from './Ahead';
import { Bounds } from './Bounds';
import { NextCard } from './NextCard';
import { SequenceCard } from './SequenceCard';
import { SkipReading } from './SkipReading';
import { isLimited } from './use-limits';
import { listsOf, type RunningSequence } from './use-sequence';
import style from './NextPane.module.css';

interface Props {
  readonly state: CaseState;
  readonly index: BoardIndex;
  readonly engine: EngineState;
  readonly circumstances: Circumstances;
  readonly chosen: Proposal | undefined;
  readonly running: RunningSequence | undefined;
  readonly limits: Limits;
  readonly onLimits: (limits: Limits) => void;
  readonly onChoose: (key: string) => void;
  /** Begins a ready list by its name; undefined leaves it. */
  readonly onRun: (name: string | undefined) => void;
  readonly onBench: () => void;
  readonly onChecks: () => void;
  readonly onCondemn: (ref: string) => void;
}

/** What to do next: the proposed reading, or the list that is being gone through. */
export function NextPane({
  state,
  index,
  engine: { next, busy, lineUp },
  circumstances,
  chosen,
  running,
  limits,
  onLimits,
  onChoose,
  onRun,
  onBench,
  onChecks,
  onCondemn,
}: Props) {
  const { journal, append } = state;
  /**
   * A part that is the mechanism itself ends the job or is decided on, as a kill check that failed.
   */
  const finish = (ref: string): void =>
    void append({
      kind: 'check',
      title: `${ref}: winding bad at the head itself`,
      block: 'heads',
      good: false,
      kill: true,
    });
  const held = isLimited(limits) || journal.skips.length > 0;
  const lists = listsOf(index);
  const short = next?.noPower;
  return (
    <>
      {short && (
        <Notice look="attention" title="No power:" live>
          {short.net} reads {formatQuantity(short.ohm, 'ohm')} to ground where{' '}
          {formatQuantity(short.soundOhm, 'ohm')} belong. With ohms first; the next fuse would blow
          as well. Follow local codes; mains and laser work only if you are qualified.
        </Notice>
      )}
      {running ? (
        <SequenceCard
          index={index}
          running={running}
          lineUp={lineUp}
          best={chosen}
          onLeave={() => onRun(undefined)}
        />
      ) : (
        <NextCard
          index={index}
          next={next}
          busy={busy}
          chosen={chosen}
          limited={held}
          onChoose={onChoose}
          onBench={onBench}
          onCondemn={onCondemn}
          onFinished={finish}
          condemned={new Set(journal.condemned.map(({ body }) => body.ref))}
          proveHref={`${state.home}/prove`}
          repairHref={`${state.home}/repair`}
          more={
            chosen && (
              <>
                <SkipReading
                  onSkip={(why) => {
                    const { setup, kind, at, to } = chosen;
                    append({ kind: 'skip', setup, quantity: kind, at, to, why });
                  }}
                />
                <Ahead state={state} circumstances={circumstances} proposal={chosen.key} />
              </>
            )
          }
        />
      )}
      <div className={style.below}>
        {lists.length === 0 ? (
          <Button look="quiet" onClick={onChecks}>
            Guided checks
          </Button>
        ) : (
          <details className={style.lists} key={running?.sequence.name ?? ''}>
            <summary>Ready lists ({lists.length})</summary>
            <ul>
              <li>
                <button type="button" onClick={onChecks}>
                  guided checks: coil, motor, switch …
                </button>
              </li>
              {lists.map(({ name, title, measurements }) => (
                <li key={name}>
                  <button
                    type="button"
                    aria-pressed={running?.sequence.name === name}
                    onClick={() => onRun(running?.sequence.name === name ? undefined : name)}
                  >
                    {title} <small>{measurements.length}</small>
                  </button>
                </li>
              ))}
            </ul>
          </details>
        )}
        <Bounds
          index={index}
          journal={journal}
          limits={limits}
          onLimits={onLimits}
          onAgain={(entry) => append({ kind: 'retract', entry })}
        />
      </div>
    </>
  );
}
