import type { BoardIndex } from '@hanzai/core/board';
import type { Journal } from '../../case/journal';
import type { SheetWorth } from '@hanzai/core/diagnosis';
import { decibanText, faultWords, oddsWords, percent, weightWords } from '../../case/wording';
import { Button } from '../../ui/Button';
import { HatchBar } from '../../ui/HatchBar';
import type { LineUp, LineUpEntry, NextStep } from '../../workers/engine-messages';
import { Alike, pairWords } from './Alike';
import { Cleared } from './Cleared';
import style from './LineUpList.module.css';

interface Props {
  readonly index: BoardIndex;
  /** What is proposed: among it what tells suspects apart. */
  readonly next: NextStep | undefined;
  readonly lineUp: LineUp;
  readonly journal: Journal;
  /** What the eye found about parts, in words. */
  readonly notes: ReadonlyMap<string, string>;
  readonly onCondemn: (ref: string) => void;
  readonly onAcquit: (ref: string) => void;
  readonly onPoint: (readingId: string | undefined) => void;
  /** What more of the sheet would tell the suspects apart. */
  readonly worth: readonly SheetWorth[];
  /** Where the sheet is written on. */
  readonly sheetHref: string;
  /** Puts a fault on a copy of the board. */
  readonly onWhatIf: (faults: string) => void;
  /** Asks why a part is believed more than the others. */
  readonly onWhy: (ref: string) => void;
}

/**
 * How many suspects are listed: those with a chance worth naming, but never fewer than the least,
 * and every condemned one.
 */
const SHOWN = { least: 3, most: 12, fromProbability: 1e-3 } as const;

/**
 * Suspects by probability with the reading that speaks loudest; what is cleared stays in sight with
 * its reason.
 */
export function LineUpList({
  index,
  next,
  lineUp,
  journal,
  notes,
  worth,
  sheetHref,
  onCondemn,
  onAcquit,
  onPoint,
  onWhatIf,
  onWhy,
}: Props) {
  const suspects = lineUp.entries.filter((entry) => !entry.cleared);
  const cleared = lineUp.entries.filter((entry) => entry.cleared);
  const condemned = new Set(journal.condemned.map(({ body }) => body.ref));
  const isShown = ({ ref, probability }: LineUpEntry, i: number): boolean =>
    i < SHOWN.least ||
    (i < SHOWN.most && probability >= SHOWN.fromProbability) ||
    condemned.has(ref);
  const shown = suspects.filter(isShown);
  const rest = suspects.filter((entry, i) => !isShown(entry, i));
  return (
    <section className={style.panel} aria-label="Line-up of suspects">
      <header>
        <h2>Line-up</h2>
        <span className={style.rest}>
          {lineUp.refining !== undefined && <b>first look ({percent(lineUp.refining)}) · </b>}
          {shown.length} of {lineUp.entries.length} parts and places
        </span>
      </header>
      {lineUp.unexplained.length > 0 && (
        <p className={style.odd}>
          {lineUp.unmodelled > 0.5 ? 'The readings do not fit this sheet. ' : ''}Nothing here
          explains{' '}
          {lineUp.unexplained
            .slice(0, 3)
            .map((id) => readingName(id, journal))
            .join(', ')}
          : repeat {lineUp.unexplained.length > 1 ? 'them' : 'it'} on the pin itself; then think of
          another board revision or an earlier modification.
        </p>
      )}
      <ol className={style.list}>
        {shown.map((entry) => (
          <Suspect
            key={entry.ref}
            entry={entry}
            journal={journal}
            note={notes.get(entry.ref)}
            condemned={condemned.has(entry.ref)}
            onCondemn={onCondemn}
            onAcquit={onAcquit}
            onPoint={onPoint}
            onWhatIf={onWhatIf}
            onWhy={onWhy}
          />
        ))}
      </ol>
      {rest.length > 0 && (
        <p className={style.rest}>
          and {rest.length} more, none above {percent(rest[0]!.probability)}
        </p>
      )}
      {lineUp.alike.slice(0, GROUPS).map((group) => (
        <Alike key={group.join()} group={group} index={index} next={next} />
      ))}
      {lineUp.pairs.map((pair) => (
        <p key={pair.name} className={style.worth}>
          <b>{pairWords(pair)}</b> together: {oddsWords(pair.probability)}{' '}
          <small className={style.rest}>{percent(pair.probability)}</small>
        </p>
      ))}
      <ul className={style.outside}>
        <li>
          <span>Nothing wrong</span> <b>{oddsWords(lineUp.healthy)}</b>
          <small>then what was seen comes and goes, or is not on this board</small>
        </li>
        <li>
          <span>None of these</span> <b>{oddsWords(lineUp.unmodelled)}</b>
          <small>then it is no single fault of this sheet, or the sheet is not this board</small>
        </li>
      </ul>
      {lineUp.sheet.length > 0 && (
        <div className={style.doubts}>
          <h3>Or the sheet is wrong</h3>
          <ul>
            {lineUp.sheet.map(({ title, check, probability }) => (
              <li key={title}>
                {title} <span className={style.rest}>{percent(probability)}</span>
                <small>{check}</small>
              </li>
            ))}
          </ul>
        </div>
      )}
      {worth[0] && (
        <p className={style.worth}>
          Draw what hangs on <b className="mono">{worth[0].net}</b>
          {worth[0].note ? ` (${worth[0].note})` : ''}: volts there would part the {worth[0].of}{' '}
          leading suspects into {worth[0].groups} groups. <a href={sheetHref}>Write the sheet on</a>
        </p>
      )}
      {cleared.length > 0 && <Cleared entries={cleared} journal={journal} />}
    </section>
  );
}

/** Groups of suspects that are told; more would hide the suspects themselves. */
const GROUPS = 2;
function Suspect({
  entry,
  journal,
  note,
  condemned,
  onCondemn,
  onAcquit,
  onPoint,
  onWhatIf,
  onWhy,
}: { entry: LineUpEntry; journal: Journal; note: string | undefined; condemned: boolean } & Pick<
  Props,
  'onCondemn' | 'onAcquit' | 'onPoint' | 'onWhatIf' | 'onWhy'
>) {
  return (
    <li
      className={style.suspect}
      onMouseEnter={() => onPoint(entry.loudest?.id)}
      onMouseLeave={() => onPoint(undefined)}
    >
      <div className={style.words}>
        <div className={style.head}>
          <strong className={style.ref}>{entry.ref}</strong>
          <span className={style.title}>{entry.title}</span>
          <span className={style.percent}>
            {oddsWords(entry.probability)} <small>{percent(entry.probability)}</small>
          </span>
        </div>
        <HatchBar share={entry.probability} label={`${entry.ref}: ${percent(entry.probability)}`} />
        <small
          title={
            entry.loudest &&
            `weight of evidence ${decibanText(entry.loudest.decibans)}: +10 dB makes the odds ten times higher`
          }
        >
          {condemned && <b className={style.mark}>condemned</b>}{' '}
          {entry.loudest
            ? `${readingName(entry.loudest.id, journal)} speaks loudest, ${weightWords(entry.loudest.decibans)}`
            : `likeliest ${modes(entry)}`}
        </small>
        {note && <small>{note}</small>}
      </div>
      <div className={style.acts}>
        <Button look="quiet" onClick={() => onWhy(entry.ref)} aria-label={`Why ${entry.ref}`}>
          Why
        </Button>
        {entry.modes[0] && (
          <Button
            look="quiet"
            onClick={() => onWhatIf(entry.modes[0]!)}
            aria-label={`What if ${faultWords(entry.modes[0])}`}
            title={`What if ${faultWords(entry.modes[0])}`}
          >
            If
          </Button>
        )}
        {condemned ? (
          <Button
            look="quiet"
            onClick={() => onAcquit(entry.ref)}
            aria-label={`Take the verdict on ${entry.ref} back`}
          >
            Take back
          </Button>
        ) : (
          <Button
            look="quiet"
            onClick={() => onCondemn(entry.ref)}
            aria-label={`Condemn ${entry.ref}`}
          >
            Condemn
          </Button>
        )}
      </div>
      {entry.faults.length > 1 && (
        <details className={style.faults}>
          <summary>{entry.faults.length} ways</summary>
          <ul>
            {entry.faults.map(({ name, probability }) => (
              <li key={name}>
                <button type="button" onClick={() => onWhatIf(name)}>
                  {faultWords(name)}
                </button>{' '}
                {oddsWords(probability)}
              </li>
            ))}
          </ul>
        </details>
      )}
    </li>
  );
}

function modes(entry: LineUpEntry): string {
  return entry.modes
    .map((name) => (name.includes(' + ') ? faultWords(name) : name.split(':')[1]))
    .filter((mode, i, all) => all.indexOf(mode) === i)
    .join(' or ');
}

function readingName(id: string, journal: Journal): string {
  const reading = journal.readings.find(({ entry }) => entry.id === id);
  return reading ? reading.entry.body.typed : 'a reading';
}
