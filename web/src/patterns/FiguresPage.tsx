import { Band } from '../case/Band';
import { POLICY_WORDS, WRONG_TURNS, type WrongTurn } from '../case/case-figures';
import { stageTitle, isStage } from '../case/stages';
import { minutesText, percent } from '../case/wording';
import { ButtonLink } from '../ui/Button';
import { Column, Columns } from '../ui/Columns';
import { Keys } from '../ui/Keys';
import { Notice } from '../ui/Notice';
import { Panel } from '../ui/Panel';
import { Place } from '../ui/Place';
import { ColumnTable } from '../ui/ColumnTable';
import { Small } from '../ui/Words';
import { CaseLinks } from './CaseLinks';
import type { ShopFigures } from './shop-figures';

/** The shop's own figures: what came back, where the time goes, what led nowhere. */
export function FiguresPage({ figures }: { figures: ShopFigures }) {
  return (
    <>
      <Band here="patterns" />
      <Figures figures={figures} />
      <Keys
        keys={[
          ['Tab, Enter', 'from one to the next, and into a case'],
          ['?', 'these keys'],
        ]}
      />
    </>
  );
}

export function Figures({ figures }: { figures: ShopFigures }) {
  return (
    <Place>
      <h1>The shop’s own figures</h1>
      <p>
        Of {figures.cases} closed {figures.cases === 1 ? 'case' : 'cases'}; each figure leads to
        those behind it. <ButtonLink href="/patterns">Back to Patterns</ButtonLink>
      </p>
      {figures.cases === 0 ? (
        <Notice title="No case is closed yet.">
          With the first that is handed back its minutes stand here, with the second a comparison.
        </Notice>
      ) : (
        <Columns>
          <Column>
            <Policies policies={figures.policies} />
            <Parts parts={figures.parts} />
          </Column>
          <Column>
            <Stages stages={figures.stages} />
            <Turns turns={figures.turns} />
          </Column>
        </Columns>
      )}
    </Place>
  );
}

function Policies({ policies }: Pick<ShopFigures, 'policies'>) {
  return (
    <Panel title="Back within the guarantee" aside="by how far the replacement went">
      {policies.length === 0 ? (
        <Small>No case was closed with a guarantee yet: Hand back asks for its days.</Small>
      ) : (
        <ColumnTable
          rows={policies}
          keyOf={({ policy }) => policy}
          columns={[
            { name: 'what was done', cell: ({ policy }) => POLICY_WORDS[policy] ?? policy },
            {
              name: 'came back',
              cell: ({ guaranteed, returned, interval }) => (
                <>
                  <b className="mono">
                    {returned.length} of {guaranteed}
                  </b>{' '}
                  <Small as="span">
                    {Math.round(100 * interval.low)} to {Math.round(100 * interval.high)} %
                  </Small>
                </>
              ),
            },
            {
              name: 'cases',
              cell: ({ returned }) =>
                returned.length === 0 ? (
                  <Small as="span">none came back</Small>
                ) : (
                  <CaseLinks numbers={returned} />
                ),
            },
          ]}
        />
      )}
      <Small>
        The spread is what so few cases leave open, at 95 %. Units differ more than what was decided
        on them: hard cases are decided otherwise than easy ones.
      </Small>
    </Panel>
  );
}

function Parts({ parts }: Pick<ShopFigures, 'parts'>) {
  return (
    <Panel title="Parts in units that came back" aside="the part need not be why">
      {parts.length === 0 ? (
        <Small>Nothing came back.</Small>
      ) : (
        <ColumnTable
          rows={parts}
          keyOf={({ of }) => of}
          columns={[
            { name: 'kind', cell: ({ of }) => of },
            { name: 'came back', mono: true, cell: ({ came, fitted }) => `${came} of ${fitted}` },
            { name: 'cases', cell: ({ cases }) => <CaseLinks numbers={cases} /> },
          ]}
        />
      )}
    </Panel>
  );
}

function Stages({ stages }: Pick<ShopFigures, 'stages'>) {
  return (
    <Panel title="Where the time goes" aside="bench minutes of a case, by what was entered">
      <ColumnTable
        rows={stages}
        keyOf={({ stage }) => stage}
        columns={[
          { name: 'stage', cell: ({ stage }) => (isStage(stage) ? stageTitle(stage) : stage) },
          { name: 'half take', mono: true, cell: ({ median }) => minutesText(Math.round(median)) },
          { name: 'longest', mono: true, cell: ({ most }) => minutesText(Math.round(most)) },
          { name: 'of all time', mono: true, cell: ({ share }) => percent(share) },
          {
            name: 'longest cases',
            cell: ({ cases }) => <CaseLinks numbers={cases.slice(0, 3)} />,
          },
        ]}
      />
    </Panel>
  );
}

function Turns({ turns }: Pick<ShopFigures, 'turns'>) {
  return (
    <Panel title="Wrong turns" aside="what led nowhere">
      {turns.length === 0 ? (
        <Small>None in the closed cases.</Small>
      ) : (
        <ColumnTable
          rows={turns}
          keyOf={({ kind }) => kind}
          columns={[
            { name: 'kind', cell: ({ kind }) => WRONG_TURNS[kind as WrongTurn] ?? kind },
            { name: 'how often', mono: true, cell: ({ count }) => count },
            { name: 'cases', cell: ({ cases }) => <CaseLinks numbers={cases} /> },
          ]}
        />
      )}
      <Small>
        A part that was replaced while the fault stayed may have been bad all the same: a chain has
        several links.
      </Small>
    </Panel>
  );
}
