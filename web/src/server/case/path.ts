import { database } from '../db/client';
import { findCaseByNumber, type CaseRow } from './repository';

/** The card of the case that a page's path names, or undefined. */
export async function cardOfPath(text: string | undefined): Promise<CaseRow | undefined> {
  if (!/^\d{1,9}$/.test(text ?? '')) return undefined;
  return findCaseByNumber(database(), Number(text));
}
