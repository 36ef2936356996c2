import type { Pattern } from './pattern';

/**
 * A fill-reducing column order by minimum degree on the pattern of A + Aᵀ. Returns the columns in
 * elimination order, length size. Cost: near linear on circuits, whose nodes have few neighbours;
 * ties go to the lower index, so the order repeats.
 * Source: Rose, "A graph-theoretic study of the numerical solution of sparse positive definite
 * systems", 1972.
 */
export function minimumDegreeOrder(pattern: Pattern): Int32Array {
  const { size, start, row } = pattern;
  const neighbours = Array.from({ length: size }, () => new Set<number>());
  for (let c = 0; c < size; c += 1) {
    for (let p = start[c]!; p < start[c + 1]!; p += 1) {
      const r = row[p]!;
      if (r === c) continue;
      neighbours[c]!.add(r);
      neighbours[r]!.add(c);
    }
  }
  const buckets: number[][] = [];
  const degree = new Int32Array(size);
  const put = (node: number): void => {
    degree[node] = neighbours[node]!.size;
    (buckets[degree[node]!] ??= []).push(node);
  };
  for (let node = size - 1; node >= 0; node -= 1) put(node);
  const order = new Int32Array(size);
  const gone = new Uint8Array(size);
  let lowest = 0;
  for (let k = 0; k < size;) {
    while (!buckets[lowest]?.length) lowest += 1;
    const node = buckets[lowest]!.pop()!;
    if (gone[node] || degree[node] !== lowest) continue;
    gone[node] = 1;
    order[k++] = node;
    const around = [...neighbours[node]!];
    for (const a of around) {
      const set = neighbours[a]!;
      set.delete(node);
      for (const b of around) if (b !== a) set.add(b);
      put(a);
      lowest = Math.min(lowest, degree[a]!);
    }
    neighbours[node]!.clear();
  }
  return order;
}
