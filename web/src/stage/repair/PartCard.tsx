import { zodResolver } from '@hookform/resolvers/zod';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { nameKey, type BoardIndex } from '@hanzai/core/board';
import { LIBRARY } from '@hanzai/data';
import {
  cameOffOf,
  mayHaveWay,
  objectionOf,
  satOf,
  remarksWithoutSheet,
  replacementRemarks,
} from '@hanzai/core/bench';
import { isPolarised, marking, readSpec, verdictOf, type FitVerdict } from '@hanzai/core/part';
import { boardValue } from '../../case/board-value';
import type { CaseState } from '../../case/use-case';
import { NumberFields } from '../../form/NumberFields';
import { numbersOf, type Typed } from '../../form/numbers';
import { Button } from '../../ui/Button';
import { Field } from '../../ui/Field';
import { Fold } from '../../ui/Fold';
import { Notice } from '../../ui/Notice';
import { FromStock } from './FromStock';
import { MarkingSketch } from './MarkingSketch';
import { ReworkCard } from './ReworkCard';
import style from './RepairStage.module.css';

const VERDICT_WORDS: Readonly<Record<FitVerdict, string>> = {
  fits: 'It fits.',
  conditions: 'Not judged through:',
  no: 'Not this one:',
};

/** Ways a part points that are said often. */
const SAT_WORDS = ['minus', 'band', 'pin 1'].flatMap((mark) =>
  ['left', 'right', 'up', 'down'].map((way) => `${mark} ${way}`),
);

const SIDES = [
  ['h', 'Height'],
  ['d', 'Diameter'],
  ['pitch', 'Pitch of the holes'],
] as const;
type Side = (typeof SIDES)[number][0];

/** The room that there is, in the words that a part is described with: `h=11 pitch=5`. */
const roomWords = (typed: Typed<Side>): string =>
  Object.entries(numbersOf(typed))
    .map(([side, mm]) => `${side}=${mm}`)
    .join(' ');

const PartTyped = z.object({
  value: z.string().max(120, 'at most 120 characters'),
  note: z.string().max(300, 'at most 300 characters'),
  sat: z.string().max(80, 'at most 80 characters'),
  turned: z.boolean(),
});
type PartTyped = z.infer<typeof PartTyped>;

/** One part of the ledger: what comes off, what goes on, and whether it may. */
export function PartCard({
  refdes,
  state,
  index,
}: {
  refdes: string;
  state: CaseState;
  /** Undefined without a sheet: the part is what is said of it. */
  index: BoardIndex | undefined;
}) {
  const part =
    index && (index.partByKey.get(nameKey(refdes)) ?? index.replaceable.get(refdes)?.[0]);
  const { journal } = state;
  const off = journal.absent.some((ref) => nameKey(ref) === nameKey(refdes));
  const condemned = journal.condemned.find(({ body }) => body.ref === refdes);
  const fitted = journal.ledger.findLast((line) => line.ref === refdes && line.action === 'fitted');
  const said = journal.ledger.findLast((line) => line.ref === refdes)?.value ?? '';
  const cameOff = cameOffOf(journal.ledger, refdes);
  const form = useForm<PartTyped>({
    resolver: zodResolver(PartTyped),
    defaultValues: {
      value: index ? boardValue(index, refdes) : said,
      note: '',
      sat: '',
      turned: false,
    },
  });
  const { register } = form;
  const { errors } = form.formState;
  const value = form.watch('value');
  const [refusal, setRefusal] = useState<string>();
  const [typedRoom, setTypedRoom] = useState<Typed<Side>>({});
  // What was measured of the room counts as what is said of the part that was there.
  const there = [cameOff, roomWords(typedRoom)].filter(Boolean).join(' ');
  const remarks = !off
    ? []
    : index
      ? replacementRemarks(index, refdes, value, LIBRARY, there)
      : remarksWithoutSheet(there, value, LIBRARY);
  const sat = satOf(journal.ledger, refdes);
  const hasWay = part ? isPolarised(part) : mayHaveWay(refdes, value);
  const asksWay = off && !index && mayHaveWay(refdes, value);
  const verdict = verdictOf(remarks);
  const way =
    part &&
    marking(
      part,
      off
        ? readSpec(value, LIBRARY, part.kind === 'capacitor' ? 'capacitor' : undefined)
        : undefined,
    );
  const gate = off ? state.solved.fuse(refdes) : undefined;

  const enter = (kind: 'removed' | 'fitted' | 'leftOut') =>
    form.handleSubmit(({ value: typed, sat: sits, turned, note }) => {
      const sat = sits.trim() === '' ? {} : { sat: sits.trim() };
      const tooLarge = kind === 'fitted' ? objectionOf(refdes, remarks, note) : undefined;
      if (tooLarge !== undefined) {
        setRefusal(tooLarge);
        return;
      }
      const body =
        kind === 'leftOut'
          ? ({ kind, ref: refdes, note } as const)
          : kind === 'fitted'
            ? ({ kind, ref: refdes, value: typed, polarityChecked: turned, ...sat, note } as const)
            : ({
                kind,
                ref: refdes,
                value: [typed, roomWords(typedRoom)].filter(Boolean).join(' '),
                ...sat,
                note,
              } as const);
      const objection = state.append(body);
      setRefusal(objection);
      if (objection) return;
      form.resetField('note');
      // How it sits now is looked at anew.
      form.resetField('sat');
    });

  return (
    <form
      className={style.part}
      aria-label={`Part ${refdes}`}
      noValidate
      onSubmit={(event) => void enter(off ? 'fitted' : 'removed')(event)}
    >
      <header>
        <strong className={style.ref}>{refdes}</strong>
        <span>{part?.role ?? part?.kind ?? ''}</span>
        <em>{off ? 'off the board' : fitted ? 'replaced' : 'on the board'}</em>
      </header>
      {condemned && <p className={style.reason}>Condemned: {condemned.body.reason}</p>}
      {gate && (
        <Notice look="harm" title={gate.low ? 'Not yet:' : 'First:'}>
          {gate.words}. {gate.low ? '' : 'Type the ohms below.'}
        </Notice>
      )}
      {!off && fitted ? (
        <p>
          Went on: <span className="mono">{fitted.value}</span>
          {fitted.polarityChecked && ', polarity checked'}.{' '}
          <Button look="quiet" onClick={() => void enter('removed')()}>
            Take off again
          </Button>
        </p>
      ) : (
        <>
          <div className={style.fields}>
            <Field
              id={`value-${refdes}`}
              label={off ? 'What goes on' : 'What comes off'}
              error={errors.value?.message}
            >
              <input id={`value-${refdes}`} className="mono" {...register('value')} />
            </Field>
            {hasWay && (
              <Field
                id={`sat-${refdes}`}
                label={off ? 'How it sits now' : 'How it sat'}
                hint={
                  off
                    ? sat === ''
                      ? 'How the old one sat was not written down.'
                      : `The old one sat: ${sat}.`
                    : 'Where its minus, band, flat or pin 1 points. A picture first, where it hides the print.'
                }
                error={errors.sat?.message}
              >
                <input
                  id={`sat-${refdes}`}
                  list="sat-words"
                  placeholder="minus left"
                  {...register('sat')}
                />
                <datalist id="sat-words">
                  {SAT_WORDS.map((words) => (
                    <option key={words} value={words} />
                  ))}
                </datalist>
              </Field>
            )}
            <Field
              id={`note-${refdes}`}
              label={off ? 'Note (or why it stays off)' : 'Note'}
              error={errors.note?.message}
            >
              <input id={`note-${refdes}`} {...register('note')} />
            </Field>
          </div>
          <Fold>
            <summary>Room there, mm</summary>
            <NumberFields
              id={`room-${refdes}`}
              fields={SIDES}
              typed={typedRoom}
              onType={setTypedRoom}
            />
          </Fold>
          {remarks.length > 0 && (
            <Notice
              look={
                { fits: 'good', conditions: 'plain', no: 'attention' }[verdict] as
                  'good' | 'plain' | 'attention'
              }
              title={VERDICT_WORDS[verdict]}
            >
              <ul className={style.remarks}>
                {remarks.map(({ level, text }) => (
                  <li key={text} data-level={level}>
                    {{ stop: 'No: ', warn: '', ok: 'Right: ' }[level]}
                    {text}
                  </li>
                ))}
              </ul>
            </Notice>
          )}
          {asksWay && (
            <label className={style.check}>
              <input type="checkbox" {...register('turned')} /> Looked at which way round it sits:
              as the one that came off, or as the board is marked
            </label>
          )}
          {off && way && (
            <label className={style.check}>
              <input type="checkbox" {...register('turned')} /> <MarkingSketch marking={way} /> This
              way round: {way.words}
            </label>
          )}
          {refusal && (
            <Notice look="attention" live>
              {refusal}
            </Notice>
          )}
          <div className={style.actions}>
            <Button look="main" type="submit" disabled={off && gate !== undefined}>
              {off ? `${refdes} went on` : `${refdes} came off`}
            </Button>
            {off && <Button onClick={() => void enter('leftOut')()}>Stays off on purpose</Button>}
            {condemned && !off && (
              <Button look="quiet" onClick={() => state.append({ kind: 'acquit', ref: refdes })}>
                Take the verdict back
              </Button>
            )}
          </div>
        </>
      )}
      {(off || condemned) && !state.practice && (
        <FromStock
          state={state}
          index={index}
          refdes={refdes}
          cameOff={cameOff}
          onTake={(text) => off && form.setValue('value', text)}
        />
      )}
      {index && part && <ReworkCard state={state} index={index} part={part} />}
    </form>
  );
}
