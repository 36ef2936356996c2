import { format } from 'date-fns/format';
import { useState } from 'react';
import { Band } from '../case/Band';
import type { BoardChoice } from '../case/board-choice';
import { faultWords, oddsWords } from '../case/wording';
import { ButtonLink } from '../ui/Button';
import { Column, Columns } from '../ui/Columns';
import { Keys } from '../ui/Keys';
import { Notice } from '../ui/Notice';
import { Panel } from '../ui/Panel';
import { Place } from '../ui/Place';
import { ColumnTable } from '../ui/ColumnTable';
import { TextField } from '../ui/TextField';
import { Small } from '../ui/Words';
import { CaseLinks } from './CaseLinks';
import { Exchange } from './Exchange';
import { FromCircuit } from './FromCircuit';
import { findPatterns } from './find';
import { OwnPatterns } from './OwnPatterns';
import {
  isUsual,
  type PatternsAnswer,
  type TaughtEnd,
  type TaughtModes,
  type TaughtRate,
} from './patterns';
import style from './Patterns.module.css';
import { PatternCard } from './PatternCard';
import { Teaching } from './Teaching';
import { usePatterns } from './use-patterns';

/** Patterns shown at once where nothing is looked for. */
const SHOWN = 12;

/**
 * What the workshop knows of what fails: what is seen and what is behind it, and where that is
 * from.
 */
export function PatternsPage({
  known: sent,
  boards,
  find,
}: {
  known: PatternsAnswer;
  boards: readonly BoardChoice[];
  find: string;
}) {
  const state = usePatterns(sent);
  const { known, refusal } = state;
  const [said, setSaid] = useState(find);
  const found = findPatterns(known, said);
  const looked = said.trim() !== '';
  const shown = looked ? found : found.slice(0, SHOWN);
  return (
    <>
      <Band here="patterns" />
      <Place>
        <h1>Patterns</h1>
        <p>
          What is known to fail. <ButtonLink href="/figures">The shop’s own figures</ButtonLink>
        </p>
        {refusal !== undefined && (
          <Notice look="attention" title="Not done:" live>
            {refusal}.
          </Notice>
        )}
        {known.behind && (
          <Notice title="Closed cases are being worked in." live>
            {known.workedOutAt === null
              ? 'Until then this is the rate table and common practice alone.'
              : `What you see is of ${format(new Date(known.workedOutAt), 'd MMM yyyy HH:mm')}.`}
          </Notice>
        )}
        <TextField
          id="patterns-find"
          label="What is seen"
          hint="in anybody’s words: no movement, hums and stands, read error"
          type="search"
          value={said}
          onChange={(event) => setSaid(event.target.value)}
        />
        {found.length === 0 ? (
          <Notice title="Nothing known is like that.">
            Fewer words find more. What you find out in the end can be written down below.
          </Notice>
        ) : (
          <ul className={style.patterns} aria-label="Patterns">
            {shown.map((pattern) => (
              <PatternCard key={`${pattern.unit} ${pattern.name}`} pattern={pattern} />
            ))}
          </ul>
        )}
        {shown.length < found.length && (
          <Small>{found.length - shown.length} more: say what is seen.</Small>
        )}
        <Columns>
          <Column>
            <FromCircuit boards={boards} said={said} />
            <Ends ends={known.ends} />
            <OwnPatterns state={state} said={said} />
          </Column>
          <Column>
            <Rates rates={known.rates} modes={known.modes} />
            <Teaching state={state} />
            <Exchange state={state} />
          </Column>
        </Columns>
      </Place>
      <Keys
        keys={[
          ['Tab, Enter', 'from one to the next, and into a case'],
          ['?', 'these keys'],
        ]}
      />
    </>
  );
}

const counted = (count: number): string => String(Number(count.toFixed(1)));

function Ends({ ends }: { ends: readonly TaughtEnd[] }) {
  return (
    <Panel title="What boards died of" aside="learned here">
      {ends.length === 0 ? (
        <Small>No case with a sheet has been closed and proven yet.</Small>
      ) : (
        <ColumnTable
          rows={ends}
          keyOf={({ board, ref }) => `${board} ${ref}`}
          columns={[
            { name: 'board', cell: ({ board }) => board },
            {
              name: 'part',
              cell: ({ ref, mode }) => (
                <>
                  <b className="mono">{ref}</b> {faultWords(mode)}
                </>
              ),
            },
            {
              name: 'how often',
              cell: (end) => (
                <>
                  {counted(end.seen)} of {end.of}
                  <Small as="span">
                    {' '}
                    {Math.round(100 * end.interval.low)} to {Math.round(100 * end.interval.high)}
                    &nbsp;%
                  </Small>
                  {isUsual(end) && <strong> the usual end</strong>}
                </>
              ),
            },
            { name: 'cases', cell: ({ cases }) => <CaseLinks numbers={cases} /> },
          ]}
        />
      )}
    </Panel>
  );
}

function Rates({ rates, modes }: { rates: readonly TaughtRate[]; modes: readonly TaughtModes[] }) {
  const told = rates.filter(({ failures }) => failures > 0);
  return (
    <Panel title="What fails how often" aside="learned here, beside the rate table">
      {told.length === 0 ? (
        <Small>The rate table alone: from memory of bench practice.</Small>
      ) : (
        <ColumnTable
          rows={told}
          keyOf={({ of }) => of}
          columns={[
            {
              name: 'part',
              cell: ({ of, roles }) => (
                <>
                  {of}
                  {roles.map(({ role, failures, factor }) => (
                    <Small key={role}>
                      {role}: {counted(failures)}, {factor.toFixed(1)} times its class
                    </Small>
                  ))}
                </>
              ),
            },
            { name: 'failed', mono: true, cell: ({ failures }) => counted(failures) },
            { name: 'expected', mono: true, cell: ({ expected }) => counted(expected) },
            {
              name: 'against the table',
              cell: ({ factor, interval }) => (
                <>
                  <b className="mono">{factor.toFixed(factor < 1 ? 2 : 1)}</b> times as often
                  <Small as="span">
                    {' '}
                    {interval.low.toFixed(2)} to {interval.high.toFixed(1)}
                  </Small>
                </>
              ),
            },
            {
              name: 'how',
              cell: ({ of }) =>
                (modes.find((one) => one.of === of)?.modes ?? [])
                  .filter(({ seen }) => seen > 0)
                  .map(({ name, share, before, seen }) => (
                    <div key={name}>
                      {faultWords(name)} <b className="mono">{oddsWords(share)}</b>
                      <Small as="span">
                        {' '}
                        {counted(seen)} here,{' '}
                        {before > 0 ? `${oddsWords(before)} before` : 'not in the table'}
                      </Small>
                    </div>
                  )),
            },
          ]}
        />
      )}
    </Panel>
  );
}
