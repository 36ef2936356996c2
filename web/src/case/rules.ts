import { DEFER, lockedBy, type Gate, type Lock } from '@hanzai/core/bench';
import type { UnitModel } from '@hanzai/core/block';
import type { BoardIndex } from '@hanzai/core/board';
import type { Entry, EntryBody } from './entry';
import { isPowered, playJournal, type Journal } from './journal';
import type { Situation } from './kind/definition';
import { kindOf } from './kinds';
import { caseProgress } from './progress';
import { isRepair, solveHere, type Solved } from './solved';
import { caseHazards } from './unit';

/**
 * Why an entry may not be made now, with the way out; undefined where it may. The browser asks
 * before sending, the server before storing. solver: who says what circuits tell of the case.
 */
export function entryObjection(
  body: EntryBody,
  entries: readonly Entry[],
  index: BoardIndex | undefined,
  model?: UnitModel,
  solver: (index: BoardIndex | undefined, journal: Journal) => Solved = solveHere,
): string | undefined {
  const journal = playJournal(entries, index);
  if (journal.closed && body.kind !== 'reopen' && body.kind !== 'followedUp')
    return 'the case is closed: reopen it first';
  const solved = solver(index, journal);
  const kind = kindOf(body.kind);
  const gate = kind.gate?.(body);
  const locked =
    (gate && lockedObjection(journal, index, model, gate)) ??
    (isPowered(body) ? powerObjection(journal, solved) : undefined);
  return locked ?? ownObjection(body, entries, index, model, journal, solved);
}

/** What the kind of an entry has against it, whatever is locked. */
export function ownObjection(
  body: EntryBody,
  entries: readonly Entry[],
  index: BoardIndex | undefined,
  model: UnitModel | undefined,
  journal: Journal,
  solved: Solved,
): string | undefined {
  const kind = kindOf(body.kind);
  const situation: Situation = {
    journal,
    entries,
    index,
    model,
    hazards: () => caseHazards(model, index, journal),
    obstacles: () => caseProgress(index, journal, solved).obstacles,
    solved,
  };
  if (body.kind === 'retract') return retractObjection(situation, body.entry);
  return kind.objection === 'none' ? undefined : kind.objection(body, situation);
}

/** Whether an entry can be taken back is a matter of its kind. */
function retractObjection(situation: Situation, id: string): string | undefined {
  const entry = situation.entries.find((candidate) => candidate.id === id);
  if (!entry) return 'the entry to take back is not in this case';
  const { words, takeBack } = kindOf(entry.body.kind);
  if (takeBack === 'free') return undefined;
  if (takeBack === 'never') return `a ${words} cannot be taken back`;
  return takeBack(entry, situation);
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
export function powerObjection(journal: Journal, solved: Solved): string | undefined {
  if (journal.powerAnyway) return undefined;
  if (journal.inside.length > 0)
    return `still in the unit: ${journal.inside.map(({ body }) => body.what).join(', ')}. Take it out first, or say in Repair why it stays in with the power on`;
  if (journal.missing.length > 0)
    return `${journal.missing.join(', ')} is off the board: fit it first, or say in Repair that power without it is meant`;
  if (!journal.ledger.some(isRepair)) return undefined;
  const objection = solved.power();
  return objection && `${objection}; or say in Repair why it gets power all the same`;
}
