import { writeReadingsFile } from '@hanzai/core/instrument';
import type { APIRoute } from 'astro';
import { caseFile } from '../../../../server/case/played';

/** GET: the readings that stand, in the order taken, as a readings file. */
export const GET: APIRoute = ({ params }) =>
  caseFile(
    params.id,
    ({ number }, { readings }) =>
      new Response(writeReadingsFile(readings), {
        headers: {
          'content-type': 'text/csv; charset=utf-8',
          'content-disposition': `attachment; filename="case-${number}-readings.csv"`,
        },
      }),
  );
