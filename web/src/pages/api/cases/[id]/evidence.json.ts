import type { APIRoute } from 'astro';
import { evidenceFile } from '../../../../case/evidence';
import { caseFile } from '../../../../server/case/played';
import { json } from '../../../../server/problem';

/** GET: what was entered in a case and stands, as it was entered. */
export const GET: APIRoute = ({ params }) =>
  caseFile(params.id, (view, journal) => {
    const response = json(evidenceFile(view, journal));
    const name = `case-${view.number}-evidence.json`;
    response.headers.set('content-disposition', `attachment; filename="${name}"`);
    return response;
  });
