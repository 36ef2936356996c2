import { useMemo, useState } from 'react';
import { calledChecks, FINDING_RULES } from '@hanzai/core/bench';
import { boardFrame } from '../../board-face/face';
import { Caution } from '../../case/Caution';
import { CaseFrame } from '../../case/CaseFrame';
import { PictureBoard } from '../../case/PictureBoard';
import { Pictures } from '../../case/Pictures';
import { placedFindings, touchedByLook } from '../../case/unit';
import type { CaseState } from '../../case/use-case';
import { percent } from '../../case/wording';
import { Button, ButtonLink } from '../../ui/Button';
import { Keys } from '../../ui/Keys';
import { Notice } from '../../ui/Notice';
import { Panel } from '../../ui/Panel';
import { Column, Columns } from '../../ui/Columns';
import { Rows } from '../../ui/Rows';
import { Table } from '../../ui/Table';
import { Small } from '../../ui/Words';
import { Actions } from '../../ui/FormRow';
import tone from '../../ui/Words.module.css';
import { BoardOutline } from './BoardOutline';
import { FindingForm } from './FindingForm';

/**
 * Look: what the eye finds, placed on the board; the parts and joints it speaks of, the continuity
 * checks it calls for, and how to take a part off there.
 */
export function LookStage({ state }: { state: CaseState }) {
  const { view } = state;
  const { index, journal } = state;
  const [place, setPlace] = useState<{ xMm: number; yMm: number }>();
  const [onPicture, setOnPicture] = useState<{ x: number; y: number }>();
  const [pointed, setPointed] = useState<string>();
  // A board without a sheet is looked at on its picture.
  const outline = index && boardFrame(index.board);
  const picture = outline
    ? undefined
    : (journal.pictures.findLast(({ body }) => body.of === 'board') ?? journal.pictures.at(-1))
        ?.body;
  return (
    <CaseFrame state={state} stage="look">
      <Columns>
        <Column>
          <Caution of="look" />
          {index && outline ? (
            <Panel
              title="Where on the board"
              aside="tap the place; with the keyboard move the mark by the arrow keys"
            >
              <BoardOutline
                index={index}
                boardId={view.board?.id ?? ''}
                findings={placedFindings(journal)}
                place={place}
                onPlace={setPlace}
                pointed={pointed}
              />
            </Panel>
          ) : picture ? (
            <Panel title="Where on the picture" aside={`tap the place on “${picture.title}”`}>
              <PictureBoard
                picture={picture.picture}
                title={picture.title}
                marks={[
                  ...journal.seen.flatMap(({ body }) =>
                    body.on?.picture === picture.picture ? [{ x: body.on.x, y: body.on.y }] : [],
                  ),
                  ...(onPicture ? [{ ...onPicture, fresh: true }] : []),
                ]}
                onPlace={setOnPicture}
              />
            </Panel>
          ) : (
            <Notice>
              {index
                ? 'The sheet of this board has no places and no outline: findings are kept without a place.'
                : 'No board sheet yet: findings are kept, but nothing can be worked out of where they lie.'}{' '}
              With a picture of the board they get a place on it.
            </Notice>
          )}
          <Panel title="What is there" framed>
            <FindingForm
              state={state}
              place={place}
              on={picture && onPicture ? { picture: picture.picture, ...onPicture } : undefined}
              onDone={() => {
                setPlace(undefined);
                setOnPicture(undefined);
              }}
            />
          </Panel>
          <Found state={state} onPoint={setPointed} />
          <Pictures state={state} of="board" title="Pictures of the board" />
        </Column>
        <Column>
          <Touched state={state} />
          <Checks state={state} />
          <p>
            <ButtonLink look="main" href={`${state.home}/first-aid`}>
              On to First aid
            </ButtonLink>
          </p>
        </Column>
      </Columns>
      <Keys
        keys={[
          ['arrow keys', 'move the mark on the board (with the board in focus)'],
          ['Enter', 'add the finding'],
          ['?', 'these keys'],
        ]}
      />
    </CaseFrame>
  );
}

function Found({
  state,
  onPoint,
}: {
  state: CaseState;
  onPoint: (id: string | undefined) => void;
}) {
  const { seen } = state.journal;
  if (seen.length === 0)
    return (
      <Notice>
        Leaks, crusts, burns, cracked joints, lifted pads, raised sockets, glue gone brown, foreign
        bodies. Each raises what lies near it, and says what to check.
      </Notice>
    );
  return (
    <Panel title="Found">
      <Rows>
        {seen.map(({ id, body }, i) => {
          const rule = FINDING_RULES[body.what];
          return (
            <li key={id} onMouseEnter={() => onPoint(id)} onMouseLeave={() => onPoint(undefined)}>
              <span>
                {i + 1}. <b>{rule.title}</b>
                {body.text && `: ${body.text}`}
                <small>
                  {body.sizeMm} mm, {percent(body.certainty)} sure{body.at ? '' : ', no place'} ·
                  taking a part off here: {rule.removal}
                </small>
                {rule.caution && <small className={tone.harm}>{rule.caution}</small>}
              </span>
              <Button
                look="quiet"
                aria-label={`Take back finding ${i + 1}`}
                onClick={() => state.append({ kind: 'retract', entry: id })}
              >
                Take back
              </Button>
            </li>
          );
        })}
      </Rows>
    </Panel>
  );
}

function Touched({ state }: { state: CaseState }) {
  const { index, journal } = state;
  const touched = useMemo(() => touchedByLook(index, journal), [index, journal]);
  const shown = touched.filter(({ factor }) => factor > 1.1).slice(0, 14);
  if (shown.length === 0) return null;
  return (
    <Panel title="What it raises" aside="odds before any reading; Trace takes them in">
      <Table>
        <thead>
          <tr>
            <th scope="col">part</th>
            <th scope="col" className={tone.number}>
              odds
            </th>
            <th scope="col">because</th>
          </tr>
        </thead>
        <tbody>
          {shown.map(({ ref, factor, reason, finding }) => (
            <tr key={`${finding} ${ref}`}>
              <th scope="row" className="mono">
                {ref}
              </th>
              <td className={tone.number}>× {factor.toFixed(1)}</td>
              <td>{reason}</td>
            </tr>
          ))}
        </tbody>
      </Table>
      {touched.length > shown.length && (
        <Small>and {touched.length - shown.length} more, hardly raised</Small>
      )}
    </Panel>
  );
}

function Checks({ state }: { state: CaseState }) {
  const { index, journal, view } = state;
  const checks = useMemo(
    () => (index ? calledChecks(index, placedFindings(journal)) : []),
    [index, journal],
  );
  const [refusal, setRefusal] = useState<string>();
  if (checks.length === 0) return null;
  const done = new Map(
    journal.readings
      .filter(({ measurement }) => measurement.kind === 'continuity')
      .map((r) => [`${r.entry.body.at} ${r.entry.body.to}`, r.value]),
  );
  const file = (at: string, to: string, value: 'beep' | 'open'): void =>
    setRefusal(
      state.append({
        kind: 'reading',
        setup: 'off',
        quantity: 'continuity',
        at,
        to,
        value,
        typed: `${at} ${to} ${value}`,
      }),
    );
  return (
    <Panel title="Tracks to ring through" aside="power off; the nearest to the damage first" framed>
      <Rows>
        {checks.map(({ at, to, net, value }) => {
          const was = done.get(`${at} ${to}`);
          return (
            <li key={`${at} ${to}`}>
              <span>
                <b className="mono">
                  {at} – {to}
                </b>
                <small>
                  net {net} · {percent(value)} in it{was !== undefined && `: ${String(was)}`}
                </small>
              </span>
              <Actions as="span">
                <Button
                  look="quiet"
                  onClick={() => file(at, to, 'beep')}
                  aria-label={`${at} to ${to} beeps`}
                >
                  Beeps
                </Button>
                <Button
                  look="quiet"
                  onClick={() => file(at, to, 'open')}
                  aria-label={`${at} to ${to} is open`}
                >
                  Open
                </Button>
              </Actions>
            </li>
          );
        })}
      </Rows>
      {refusal && <p className={tone.attention}>{refusal}</p>}
      <Small>
        The sheet holds where parts are, not how tracks run: the straight way is taken. Results are
        filed with the readings of case {view.number}.
      </Small>
    </Panel>
  );
}
