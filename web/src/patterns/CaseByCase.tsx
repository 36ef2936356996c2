import { Button } from '../ui/Button';
import { Notice } from '../ui/Notice';
import { Actions } from '../ui/FormRow';
import { Table } from '../ui/Table';
import { Small } from '../ui/Words';
import type { TaughtCase } from './patterns';
import { useLessons } from './use-lessons';

const GRADE: Readonly<Record<TaughtCase['grade'], string>> = {
  whole: 'one change between two tests: counts whole',
  shared: 'several changes at once: shared among them',
  unproven: 'never proven: counts nothing',
};

/** Every closed case with what may have been its cure, a page at a time. */
export function CaseByCase({
  closed,
  setTeaches,
}: {
  /** Closed cases that there are. */
  closed: number;
  setTeaches: (number: number, teaches: boolean) => Promise<void>;
}) {
  const { lessons, hasMore, isLoading, refusal, more } = useLessons();
  return (
    <>
      {lessons.length > 0 && (
        <Table asCards>
          <thead>
            <tr>
              <th scope="col">case</th>
              <th scope="col">what may have been the cure</th>
              <th scope="col">counts</th>
            </tr>
          </thead>
          <tbody>
            {lessons.map(({ number, title, grade, teaches, cures }) => (
              <tr key={number}>
                <th scope="row">
                  <a href={`/case/${number}/hand-back`}>{number}</a> {title}
                </th>
                <td data-label="cure">
                  {cures
                    .map(({ words, share }) =>
                      cures.length === 1 ? words : `${words} ${Math.round(100 * share)} %`,
                    )
                    .join('; ')}
                  <Small as="span"> {GRADE[grade]}</Small>
                </td>
                <td data-label="counts">
                  <input
                    type="checkbox"
                    checked={teaches}
                    aria-label={`case ${number} teaches`}
                    onChange={(event) => void setTeaches(number, event.target.checked)}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
      {refusal !== undefined && (
        <Notice look="attention" title="Not all are here:" live>
          {refusal}.
        </Notice>
      )}
      <Actions>
        {isLoading && <Small>Looking them up.</Small>}
        {!isLoading && (hasMore || refusal !== undefined) && lessons.length < closed && (
          <Button onClick={more}>
            {lessons.length === 0 ? 'Try again' : `Earlier ones, ${closed - lessons.length} more`}
          </Button>
        )}
      </Actions>
    </>
  );
}
