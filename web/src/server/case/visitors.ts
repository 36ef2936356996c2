import { createHash, randomBytes } from 'node:crypto';
import { and, desc, eq, gt, isNull } from 'drizzle-orm';
import { v7 } from 'uuid';
import type { Paper } from '../../paper/paper';
import type { MadeLink, NewLink, VisitorLink } from '../../visit/visitor-link';
import { boardContent } from '../board/repository';
import type { Database } from '../db/client';
import { visitorLink } from '../db/schema/case';
import type { Outcome } from '../outcome';
import { audit } from '../people/people';
import type { Kept } from '../picture/kept';
import { findPicture, pictureIdsOf } from '../picture/repository';
import { visitedBy } from '../reckoning/pool';
import { findCase } from './repository';
import { caseView } from './service';

const DAY_MILLISECONDS = 86_400_000;

/** What a link ends with: 256 bits that nobody guesses; kept as its hash alone. */
const newToken = (): string => randomBytes(32).toString('base64url');
const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

type Row = typeof visitorLink.$inferSelect;

const seen = ({ id, forWhom, showsPictures, showsCosts, madeBy, ...row }: Row): VisitorLink => ({
  id,
  forWhom,
  showsPictures,
  showsCosts,
  madeBy,
  madeAt: row.madeAt.toISOString(),
  expiresAt: row.expiresAt.toISOString(),
});

const holds = (now: Date) => and(isNull(visitorLink.endedAt), gt(visitorLink.expiresAt, now));

/** Makes a link that shows one case. by: who does it. */
export async function makeLink(
  db: Database,
  caseId: string,
  { days, ...wanted }: NewLink,
  by: string,
): Promise<Outcome<MadeLink>> {
  const token = newToken();
  return db.transaction(async (tx) => {
    const row = await findCase(tx, caseId);
    if (!row) return { ok: false, why: 'missing', detail: 'no such case' };
    const [made] = await tx
      .insert(visitorLink)
      .values({
        id: v7(),
        caseId,
        ...wanted,
        madeBy: by,
        tokenHash: hashOf(token),
        expiresAt: new Date(Date.now() + days * DAY_MILLISECONDS),
      })
      .returning();
    await audit(tx, by, `a link to case ${row.number} for ${days} days`);
    return { ok: true, value: { link: seen(made!), path: `/visit/${token}` } };
  });
}

/** The links of a case that still show it, the newest first. */
export async function linksOf(
  db: Database,
  caseId: string,
  now = new Date(),
): Promise<readonly VisitorLink[]> {
  const rows = await db
    .select()
    .from(visitorLink)
    .where(and(eq(visitorLink.caseId, caseId), holds(now)))
    .orderBy(desc(visitorLink.madeAt));
  return rows.map(seen);
}

/** Ends a link of a case: from now on it shows nothing. */
export async function endLink(
  db: Database,
  caseId: string,
  id: string,
  by: string,
): Promise<Outcome<undefined>> {
  return db.transaction(async (tx) => {
    const [ended] = await tx
      .update(visitorLink)
      .set({ endedAt: new Date() })
      .where(
        and(eq(visitorLink.id, id), eq(visitorLink.caseId, caseId), isNull(visitorLink.endedAt)),
      )
      .returning();
    if (!ended) return { ok: false, why: 'missing', detail: 'no such link' };
    const row = await findCase(tx, caseId);
    await audit(tx, by, `ended a link to case ${row?.number}`);
    return { ok: true, value: undefined };
  });
}

async function linkBy(db: Database, token: string, now: Date): Promise<Row | undefined> {
  const [row] = await db
    .select()
    .from(visitorLink)
    .where(and(eq(visitorLink.tokenHash, hashOf(token)), holds(now)));
  return row;
}

export interface Visit {
  readonly paper: Paper;
  readonly pictures: readonly string[];
  readonly expiresAt: Date;
}

/** What a link shows; undefined where it was never made, has run out or was ended: all the same. */
export async function visit(
  db: Database,
  token: string,
  now = new Date(),
): Promise<Visit | undefined> {
  const link = await linkBy(db, token, now);
  const row = link && (await findCase(db, link.caseId));
  const view = link && (await caseView(db, link.caseId));
  if (!row || !view) return undefined;
  const { boardId, ...own } = view;
  // What it waited for may be here by now.
  const shown = row.arrived === '' ? own : { ...own, waitsFor: '' };
  const board = boardId ? { id: boardId, content: await boardContent(db, boardId) } : undefined;
  const paper = await visitedBy({ view: shown, board, showsCosts: link.showsCosts });
  const pictures = link.showsPictures ? await pictureIdsOf(db, link.caseId) : [];
  return { paper, pictures, expiresAt: link.expiresAt };
}

/** Where a picture that a link shows is; undefined where it shows none of that name. */
export async function visitedPicture(
  db: Database,
  token: string,
  id: string,
  now = new Date(),
): Promise<Kept | undefined> {
  const link = await linkBy(db, token, now);
  if (!link?.showsPictures) return undefined;
  const row = await findPicture(db, id);
  return row?.caseId === link.caseId ? row : undefined;
}
