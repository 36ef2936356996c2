import type { z } from 'zod';
import { CorrectableCard, orNothing, yearOrNothing } from '../../case/case-card';
import type { CaseView } from '../../case/case-view';

const { spendingLimit, promisedOn, boardId } = CorrectableCard.shape;

/** The card as its form has it: everything is text, and empty where there is nothing. */
export const CardForm = CorrectableCard.extend({
  spendingLimit: orNothing(spendingLimit),
  promisedOn: orNothing(promisedOn),
  boardId: orNothing(boardId),
  madeIn: yearOrNothing,
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
    boardId: view.board?.id ?? '',
  };
}
