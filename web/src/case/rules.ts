import {
  backObjection,
  DEFER,
  firstPowerObjection,
  fuseGate,
  ledgerObjection,
  lockedBy,
  type FuseObjection,
  type Gate,
  type LedgerLine,
  type Lock,
} from '@hanzai/core/bench';
import type { UnitModel } from '@hanzai/core/block';
import { nameKey, powerOf, type BoardIndex } from '@hanzai/core/board';
import { siteKind } from '@hanzai/core/fault';
import { resolveMeasurement } from '@hanzai/core/instrument';
import type { Entry, EntryBody } from './entry';
import { KINDS } from './kinds';
import { predictorOf } from './good-board';
import { isPowered, playJournal, type Journal } from './journal';
import { caseProgress } from './progress';
import { caseHazards } from './unit';

/**
 * Why an entry may not be made now, with the way out; undefined where it may. The browser asks
 * before sending, the server before storing.
 */
export function entryObjection(
  body: EntryBody,
  entries: readonly Entry[],
  index: BoardIndex | undefined,
  model?: UnitModel,
): string | undefined {
  const journal = playJournal(entries, index);
  const gate = gateOf(body);
  if (journal.closed && body.kind !== 'reopen') return 'the case is closed: reopen it first';
  const locked =
    (gate && lockedObjection(journal, index, model, gate)) ??
    (isPowered(body) ? powerObjection(index, journal) : undefined);
  if (locked) return locked;
  switch (body.kind) {
    case 'reading': {
      if (!index) return 'the case has no board sheet: choose one in Take in first';
      const resolved = resolveMeasurement(index, body.setup, body.quantity, body.at, body.to);
      return resolved.ok ? undefined : `${resolved.what}; expected ${resolved.expected}`;
    }
    case 'retract':
      return retractObjection(journal, entries, body.entry);
    case 'condemn':
    case 'acquit':
      return index && !hasPart(index, body.ref) ? `the board has no part ${body.ref}` : undefined;
    case 'removed':
    case 'leftOut':
      return index
        ? ledgerObjection(index, journal.ledger, asLine(body))
        : 'the case has no board sheet';
    case 'fitted':
      return index
        ? (ledgerObjection(index, journal.ledger, asLine(body)) ??
            fuseObjection(index, journal, body.ref))
        : 'the case has no board sheet';
    case 'close': {
      const { obstacles } = caseProgress(index, journal);
      return obstacles.length > 0 ? `it cannot be closed yet: ${obstacles.join('; ')}` : undefined;
    }
    case 'answer':
      return journal.missing.length > 0
        ? `${journal.missing.join(', ')} came off and nothing went on: nothing can be proven like this`
        : undefined;
    case 'reopen':
      return journal.closed ? undefined : 'the case is open';
    case 'start':
      return model &&
        body.failedAt !== null &&
        !model.stages.some(({ name }) => name === body.failedAt)
        ? `${model.title} has no stage ${body.failedAt}`
        : undefined;
    case 'trial':
      if (body.passed + body.failed === 0)
        return 'a trial that was never made says nothing: at least one try';
      return model
        ? unknownBlock(model, body.exercised)
        : 'choose the kind of unit in Take in first';
    case 'check':
      if (body.kill) return undefined;
      return model ? unknownBlock(model, [body.block]) : 'choose the kind of unit in Take in first';
    case 'acknowledge': {
      const hazard = caseHazards(model, index, journal).find(({ key }) => key === body.hazard);
      if (!hazard) return 'this hazard is not one of the case any more';
      return body.notHere && !hazard.ifFitted
        ? 'this one is known to be there: it can only be acknowledged'
        : undefined;
    }
    case 'residual':
      return caseHazards(model, index, journal).some(
        ({ key, charge }) => key === body.hazard && charge,
      )
        ? undefined
        : 'this charge is not one of the case any more';
    case 'powerAnyway': {
      const left = journal.missing.filter(
        (ref) => !body.refs.some((named) => nameKey(named) === nameKey(ref)),
      );
      return left.length > 0 ? `${left.join(', ')} is off the board too: name it` : undefined;
    }
    case 'back':
      return backObjection(journal.steps, body.step, body.count, body.lengthMm);
    case 'pin':
      return journal.pictures.some((picture) => picture.body.picture === body.picture)
        ? undefined
        : 'the picture is not in this case';
    case 'daylight':
    case 'timerDone':
      return journal.timers.some(({ entry, done }) => entry.id === body.timer && !done)
        ? undefined
        : 'no such timer is running';
    // Nothing stands against these but the gates above.
    case 'symptom':
    case 'finding':
    case 'code':
    case 'pattern':
    case 'step':
    case 'seen':
    case 'aid':
    case 'picture':
    case 'timer':
    case 'decision':
    case 'pause':
      return undefined;
    default:
      return unknownKind(body);
  }
}

/** A kind without a rule does not compile. */
function unknownKind(body: never): never {
  throw new Error(`no rule for ${JSON.stringify(body)}`);
}

/**
 * The gate that an entry stands behind: probes on a board with power, a meter that drives a current
 * through it, or hands in the open case. What the owner saw stands behind none.
 */
function gateOf(body: EntryBody): Gate | undefined {
  if (body.kind === 'reading')
    return body.quantity === 'symptom'
      ? undefined
      : powerOf(body.setup) === 'on'
        ? 'power'
        : 'meter';
  return body.kind === 'step' || body.kind === 'removed' || body.kind === 'fitted'
    ? 'open'
    : undefined;
}

/**
 * What has to be done before a step behind this gate, in words; undefined where nothing is left.
 */
export function lockedObjection(
  journal: Journal,
  index: BoardIndex | undefined,
  model: UnitModel | undefined,
  gate: Gate,
): string | undefined {
  const left = lockedBy(
    caseHazards(model, index, journal),
    journal.acknowledged,
    gate,
    journal.residuals,
  );
  if (left.length === 0) return undefined;
  const open = [
    ...new Set(
      left
        .filter(({ need }) => need === 'acknowledge')
        .map(({ hazard }) => hazard.kind.replace('-', ' ')),
    ),
  ];
  if (open.length > 0)
    return `locked until Make safe is acknowledged (${open.join(', ')}). ${DEFER}`;
  const [{ hazard, belowVolt }] = left as [Lock];
  return `locked until the charge is read below ${belowVolt} V since the power was last on: ${hazard.charge!.title}. Discharge it, read it, file the volts in Make safe. ${DEFER}`;
}

/**
 * Why power may not come on: parts off the board and nothing said about it, or a repair after which
 * the ohms were not read. Undefined where it may, or where somebody said that it is meant.
 */
export function powerObjection(
  index: BoardIndex | undefined,
  journal: Journal,
): string | undefined {
  if (journal.powerAnyway) return undefined;
  if (journal.missing.length > 0)
    return `${journal.missing.join(', ')} is off the board: fit it first, or say in Repair that power without it is meant`;
  const repaired = journal.ledger.some(({ action }) => action !== 'removed');
  if (!index || !repaired) return undefined;
  const objection = firstPowerObjection(
    index,
    predictorOf(index),
    journal.readings.filter(({ current }) => current),
    journal.absent,
  );
  return objection && `${objection}; or say in Repair why it gets power all the same`;
}

function unknownBlock(model: UnitModel, names: readonly string[]): string | undefined {
  const unknown = names.find((name) => !model.blocks.some((block) => block.name === name));
  return unknown === undefined ? undefined : `${model.title} has no block ${unknown}`;
}

/**
 * Readings and lines can be taken back; of a part's ledger only the newest line, or the ledger
 * would say that something went on that never came off.
 */
function retractObjection(
  journal: Journal,
  entries: readonly Entry[],
  id: string,
): string | undefined {
  const entry = entries.find((candidate) => candidate.id === id);
  if (!entry) return 'the entry to take back is not in this case';
  const { words, takeBack } = KINDS[entry.body.kind];
  if (takeBack === 'free') return undefined;
  if (takeBack === 'never') return `a ${words} cannot be taken back`;
  if (entry.body.kind === 'step') {
    const step = journal.steps.find((one) => one.id === id);
    return step && step.back > 0
      ? 'pieces of this step are back on: take that back first'
      : undefined;
  }
  if (entry.body.kind === 'picture') {
    const { picture } = entry.body;
    return journal.pins.some(({ body }) => body.picture === picture) ||
      journal.seen.some(({ body }) => body.on?.picture === picture)
      ? 'notes are pinned on this picture: take them back first'
      : undefined;
  }
  const line = journal.ledger.find((candidate) => candidate.entry.id === id);
  if (!line) return `this ${words} was taken back already`;
  const newest = journal.ledger.findLast(
    (candidate) => nameKey(candidate.ref) === nameKey(line.ref),
  );
  return newest === line ? undefined : `take back the newer line of ${line.ref} first`;
}

/** Whether a name is a part of the board, or a place where it can be bridged or cut. */
function hasPart(index: BoardIndex, ref: string): boolean {
  return (
    siteKind(index, ref) !== undefined ||
    [...index.replaceable.keys()].some((known) => nameKey(known) === nameKey(ref))
  );
}

function asLine(body: Extract<EntryBody, { kind: 'removed' | 'fitted' | 'leftOut' }>): LedgerLine {
  return {
    ref: body.ref,
    action: body.kind,
    value: body.kind === 'leftOut' ? '' : body.value,
    polarityChecked: body.kind === 'fitted' && body.polarityChecked,
    note: body.note,
  };
}

/**
 * What keeps a fuse out; undefined where nothing does, or where it is no fuse. Only readings of the
 * board as it is now count: another part fitted since is another reason to look.
 */
export function fuseHold(
  index: BoardIndex,
  journal: Journal,
  ref: string,
): FuseObjection | undefined {
  const fuse = index.partByKey.get(nameKey(ref));
  return (
    fuse &&
    fuseGate(
      index,
      fuse,
      journal.readings.filter(({ current }) => current),
      predictorOf(index),
    )
  );
}

/** Why a fuse may not go in yet, in words. */
export function fuseObjection(
  index: BoardIndex,
  journal: Journal,
  ref: string,
): string | undefined {
  return fuseHold(index, journal, ref)?.words;
}
