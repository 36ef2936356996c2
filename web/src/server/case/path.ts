import { database } from '../db/client';
import { caseViewByNumber, type CaseView } from './service';

/** The case that a page's path names, or undefined. */
export async function caseOfPath(text: string | undefined): Promise<CaseView | undefined> {
  if (!/^\d{1,9}$/.test(text ?? '')) return undefined;
  return caseViewByNumber(database(), Number(text));
}
