import Papa from 'papaparse';
import { plainCell } from '../../csv-cells';
import { MAX_ISSUES, type FileIssue } from '../../issue';
import { clip } from '../deck-elements';
import { emptyNetlist, joinPin, nameFrom, partNamed, type RawResult } from './raw-netlist';

type Row = Readonly<Record<string, string | undefined>>;

/** Whether a CSV's head is that of a pin list. */
export function isPinList(source: string): boolean {
  const [heads = []] = Papa.parse<string[]>(source.replace(/^\uFEFF/, ''), { preview: 1 }).data;
  const names = heads.map((head) => head.trim().toLowerCase());
  return ['net', 'ref', 'pin'].every((head) => names.includes(head));
}

/** Reads a pin list: CSV with the columns `net,ref,pin`, and `value` and `name` where there are any. */
export function readPinList(source: string): RawResult {
  const netlist = emptyNetlist('pin list');
  const issues: FileIssue[] = [];
  const { data } = Papa.parse<Row>(source.replace(/^\uFEFF/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (head) => head.trim().toLowerCase(),
    transform: plainCell,
  });
  data.forEach((row, i) => {
    if (issues.length >= MAX_ISSUES) return;
    const cell = (column: string): string => nameFrom(row[column] ?? '');
    const [net, ref, pin] = [cell('net'), cell('ref'), cell('pin')];
    if (ref === '' || pin === '') {
      issues.push({
        line: i + 2,
        what: `"${clip(Object.values(row).join(','))}" names no pin`,
        expected: 'net,ref,pin',
      });
      return;
    }
    const value = (row.value ?? '').trim();
    if (value) partNamed(netlist, ref).value = value;
    if (net === '') partNamed(netlist, ref);
    else
      joinPin(netlist, ref, { pin, net, ...(row.name?.trim() ? { name: row.name.trim() } : {}) });
  });
  return issues.length > 0 ? { ok: false, issues } : { ok: true, netlist };
}
