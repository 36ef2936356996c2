import { z } from 'zod';
import { reconcile } from '@hanzai/core/bench';
import { replaceablePart, type BoardIndex } from '@hanzai/core/board';
import { siteKind } from '@hanzai/core/fault';
import { boardValue } from '../../case/board-value';
import { Caution } from '../../case/Caution';
import { CaseFrame } from '../../case/CaseFrame';
import { PowerAnyway } from '../../case/PowerAnyway';
import { MeteredStrip } from '../../meter/MeteredStrip';
import type { CaseState } from '../../case/use-case';
import { Refused } from '../../form/EntryForm';
import { typedWords } from '../../form/typed';
import { useEntryForm } from '../../form/use-entry-form';
import { Button, ButtonLink } from '../../ui/Button';
import { TextField } from '../../ui/TextField';
import { Keys } from '../../ui/Keys';
import { Notice } from '../../ui/Notice';
import { BagLabels } from './BagLabels';
import { InsideList } from './InsideList';
import { LedgerTable } from './LedgerTable';
import { PartCard } from './PartCard';
import { SiteCard } from './SiteCard';
import { TrackFigures } from './TrackFigures';
import style from './RepairStage.module.css';

/** Repair: what came off, what went on, which way round; nothing that came off is forgotten. */
export function RepairStage({ state }: { state: CaseState }) {
  const { index, journal } = state;
  const states = reconcile(journal.ledger);
  const refs = [
    ...new Set([...journal.condemned.map(({ body }) => body.ref), ...states.map(({ ref }) => ref)]),
  ];
  const toMeasure = refs
    .filter((ref) => journal.absent.includes(ref))
    .map((ref) => state.solved.fuse(ref))
    .find((hold) => hold !== undefined && !hold.low && hold.measure.at !== '');
  const strip = (
    <MeteredStrip
      state={state}
      {...(toMeasure ? { list: [{ setup: 'off', kind: 'resistance', ...toMeasure.measure }] } : {})}
      disabled={journal.closed}
    />
  );
  return (
    <CaseFrame state={state} stage="repair" foot={strip}>
      <div className={style.intro}>
        <h2>Off and on</h2>
        <Caution of="iron" />
        {!state.practice && <PowerAnyway state={state} />}
      </div>
      {refs.length === 0 && (
        <Notice title="Nothing is condemned yet.">
          Condemn a suspect in <a href={`${state.home}/trace`}>Trace</a>, or enter any part that you
          take off below, for example C3.
        </Notice>
      )}
      <div className={style.parts}>
        {refs.map((ref) => {
          const site = index && siteKind(index, ref);
          return site ? (
            <SiteCard key={ref} site={ref} kind={site} state={state} />
          ) : (
            <PartCard key={ref} refdes={ref} state={state} index={index} />
          );
        })}
      </div>
      <OtherPart state={state} index={index} />
      <LedgerTable state={state} />
      {!state.practice && (
        <>
          <BagLabels state={state} />
          <InsideList state={state} />
          <TrackFigures />
        </>
      )}
      {journal.missing.length > 0 ? (
        <Notice look="attention" title="Still missing:">
          {journal.missing.join(', ')} came off and nothing went on. The case cannot be proven or
          closed like this.
        </Notice>
      ) : (
        states.length > 0 && (
          <p className={style.on}>
            {state.practice ? (
              <ButtonLink look="main" href={`${state.home}/trace`}>
                Measure again
              </ButtonLink>
            ) : (
              <ButtonLink look="main" href={`${state.home}/prove`}>
                On to Prove
              </ButtonLink>
            )}
          </p>
        )
      )}
      <Keys
        keys={[
          ['Tab', 'to the next field'],
          ['Enter', 'enter it in the ledger'],
          ['?', 'these keys'],
        ]}
      />
    </CaseFrame>
  );
}

const OtherTyped = z.object({
  ref: typedWords(80, 'no part without a name; expected a designator such as C3'),
});

function OtherPart({ state, index }: { state: CaseState; index: BoardIndex | undefined }) {
  const entry = useEntryForm(
    OtherTyped,
    { ref: '' },
    {
      enter: ({ ref }) => {
        // Without a sheet a part comes into being when it is named.
        if (!index) {
          const [name = '', ...value] = ref.split(/\s+/);
          return /^[a-z]{1,3}\d+[a-z]?(\.\d+)?$/i.test(name)
            ? state.append({
                kind: 'removed',
                ref: name.toUpperCase(),
                value: value.join(' '),
                note: '',
              })
            : `“${name}” is no designator; expected one such as C3, and what it says, for example C3 470u 16V`;
        }
        const known = replaceablePart(index, ref)?.ref;
        return known
          ? state.append({ kind: 'removed', ref: known, value: boardValue(index, known), note: '' })
          : `no part ${ref} on this sheet; expected a designator such as C3`;
      },
      clears: ['ref'],
    },
  );
  return (
    <form className={style.other} noValidate onSubmit={entry.onSubmit}>
      <TextField
        id="other"
        label={index ? 'Another part came off' : 'A part came off, and what it says'}
        className="mono"
        placeholder={index ? 'C3' : 'C3 470u 16V'}
        {...entry.field('ref')}
      />
      <Refused words={entry.refusal} />
      <Button type="submit">Enter</Button>
    </form>
  );
}
