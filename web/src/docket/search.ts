import type { DocketLine } from '../server/case/service';

/** What a search looks at, put together once a case. */
export function searchText(line: DocketLine): string {
  return `${line.number} ${line.title} ${line.unitModel} ${line.serial} ${line.owner} ${line.waitsFor} ${line.state} ${line.batch} ${line.progress.nextAction}`.toLowerCase();
}
