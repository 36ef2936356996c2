import type { z } from 'zod';
import { CorrectableCard, countOrNothing, orNothing } from '../../case/case-card';
import type { CaseView } from '../../case/case-view';

const { spendingLimit, promisedOn, boardId, madeIn, hoursRun } = CorrectableCard.shape;

/** The card as its form has it: everything is text, and empty where there is nothing. */
export const CardForm = CorrectableCard.extend({
  spendingLimit: orNothing(spendingLimit),
  promisedOn: orNothing(promisedOn),
  boardId: orNothing(boardId),
  madeIn: countOrNothing(madeIn),
  hoursRun: countOrNothing(hoursRun),
});
export type CardForm = z.output<typeof CardForm>;
export type CardTyped = z.input<typeof CardForm>;

/** A case's card as its form begins. */
export function cardOf(view: CaseView): CardTyped {
  return {
    title: view.title,
    unitModel: view.unitModel,
    serial: view.serial,
    owner: view.owner,
    complaint: view.complaint,
    spendingLimit: view.spendingLimit ?? '',
    promisedOn: view.promisedOn ?? '',
    waitsFor: view.waitsFor,
    waitsKind: CorrectableCard.shape.waitsKind.catch('').parse(view.waitsKind),
    unitType: view.unitType,
    accessories: view.accessories,
    stuckInside: view.stuckInside,
    causeOfDeath: view.causeOfDeath,
    earlierVisitors: view.earlierVisitors,
    mediaNote: view.mediaNote,
    batch: view.batch,
    madeIn: view.madeIn === null ? '' : String(view.madeIn),
    hoursRun: view.hoursRun === null ? '' : String(view.hoursRun),
    boardId: view.board?.id ?? '',
  };
}
