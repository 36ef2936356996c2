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
import { Table } from '../ui/Table';
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
        <Table asCards>
          <thead>
            <tr>
              <th scope="col">what was done</th>
              <th scope="col">came back</th>
              <th scope="col">cases</th>
            </tr>
          </thead>
          <tbody>
            {policies.map(({ policy, guaranteed, returned, interval }) => (
              <tr key={policy}>
                <th scope="row">{POLICY_WORDS[policy] ?? policy}</th>
                <td data-label="came back">
                  <b className="mono">
                    {returned.length} of {guaranteed}
                  </b>{' '}
                  <Small as="span">
                    {Math.round(100 * interval.low)} to {Math.round(100 * interval.high)} %
                  </Small>
                </td>
                <td data-label="cases">
                  {returned.length === 0 ? (
                    <Small as="span">none came back</Small>
                  ) : (
                    <CaseLinks numbers={returned} />
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
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
        <Table asCards>
          <thead>
            <tr>
              <th scope="col">kind</th>
              <th scope="col">came back</th>
              <th scope="col">cases</th>
            </tr>
          </thead>
          <tbody>
            {parts.map(({ of, fitted, came, cases }) => (
              <tr key={of}>
                <th scope="row">{of}</th>
                <td data-label="came back" className="mono">
                  {came} of {fitted}
                </td>
                <td data-label="cases">
                  <CaseLinks numbers={cases} />
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
    </Panel>
  );
}

function Stages({ stages }: Pick<ShopFigures, 'stages'>) {
  return (
    <Panel title="Where the time goes" aside="bench minutes of a case, by what was entered">
      <Table asCards>
        <thead>
          <tr>
            <th scope="col">stage</th>
            <th scope="col">half take</th>
            <th scope="col">longest</th>
            <th scope="col">of all time</th>
            <th scope="col">longest cases</th>
          </tr>
        </thead>
        <tbody>
          {stages.map(({ stage, median, most, share, cases }) => (
            <tr key={stage}>
              <th scope="row">{isStage(stage) ? stageTitle(stage) : stage}</th>
              <td data-label="half take" className="mono">
                {minutesText(Math.round(median))}
              </td>
              <td data-label="longest" className="mono">
                {minutesText(Math.round(most))}
              </td>
              <td data-label="of all time" className="mono">
                {percent(share)}
              </td>
              <td data-label="longest cases">
                <CaseLinks numbers={cases.slice(0, 3)} />
              </td>
            </tr>
          ))}
        </tbody>
      </Table>
    </Panel>
  );
}

function Turns({ turns }: Pick<ShopFigures, 'turns'>) {
  return (
    <Panel title="Wrong turns" aside="what led nowhere">
      {turns.length === 0 ? (
        <Small>None in the closed cases.</Small>
      ) : (
        <Table asCards>
          <thead>
            <tr>
              <th scope="col">kind</th>
              <th scope="col">how often</th>
              <th scope="col">cases</th>
            </tr>
          </thead>
          <tbody>
            {turns.map(({ kind, count, cases }) => (
              <tr key={kind}>
                <th scope="row">{WRONG_TURNS[kind as WrongTurn] ?? kind}</th>
                <td data-label="how often" className="mono">
                  {count}
                </td>
                <td data-label="cases">
                  <CaseLinks numbers={cases} />
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      <Small>
        A part that was replaced while the fault stayed may have been bad all the same: a chain has
        several links.
      </Small>
    </Panel>
  );
}
