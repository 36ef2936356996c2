import { useState } from 'react';
import { adjustLocks } from '../../case/kind/adjusting';
import { Caution } from '../../case/Caution';
import { CaseFrame } from '../../case/CaseFrame';
import type { CaseState } from '../../case/use-case';
import { ButtonLink } from '../../ui/Button';
import { Column, Columns } from '../../ui/Columns';
import { Keys } from '../../ui/Keys';
import { Notice } from '../../ui/Notice';
import { Small } from '../../ui/Words';
import { AsFoundForm } from './AsFoundForm';
import { LaserSupply } from './LaserSupply';
import { Search } from './Search';
import { Settings } from './Settings';
import { Speed } from './Speed';
import { TurnForm, type ProposedTurn } from './TurnForm';
import { WayBack } from './WayBack';

/**
 * Adjust: what can be set, as it was found, every touch of it, and the way back. Last of all, when
 * parts and capacitors are clear.
 */
export function AdjustStage({ state }: { state: CaseState }) {
  const { journal, index } = state;
  const [proposed, setProposed] = useState<ProposedTurn>();
  const locks = adjustLocks(journal, index);
  return (
    <CaseFrame state={state} stage="adjust">
      <Columns>
        <Column>
          <Caution of="adjust" />
          {locks.length > 0 && (
            <Notice look="attention" title="Not yet:">
              {locks.join('; ')}. A turn asks for the reason until then.
            </Notice>
          )}
          {journal.asFound.length === 0 && (
            <Notice title="Nothing is set without its first place.">
              Write down how each was found, or leave it: most units need no trimmer at all.
            </Notice>
          )}
          {journal.asFound.length > 0 && <TurnForm state={state} proposed={proposed} />}
          <Settings state={state} />
          <AsFoundForm state={state} />
        </Column>
        <Column>
          <Search state={state} onPropose={setProposed} />
          <WayBack state={state} />
          <Speed />
          <LaserSupply />
          <Small>
            Schools differ. Trimmers early: a quick look whether a turn helps at all; the price is a
            unit that is set for a dried capacitor. Trimmers last: one more hour of parts first.
          </Small>
          <p>
            <ButtonLink look="main" href={`${state.home}/prove`}>
              On to Prove
            </ButtonLink>
          </p>
        </Column>
      </Columns>
      <Keys
        keys={[
          ['Tab', 'to the next field'],
          ['Enter', 'enter it'],
          ['?', 'these keys'],
        ]}
      />
    </CaseFrame>
  );
}
