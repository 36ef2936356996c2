import { partValue, type BoardIndex } from '@hanzai/core/board';

/** What the board says that a part is, as one writes it: `470u 16V`, `T1A`, a model's name. */
export function boardValue(index: BoardIndex, ref: string): string {
  const [part] = index.replaceable.get(ref) ?? [];
  if (!part) return '';
  const rating =
    part.rating ?? (part.kind === 'capacitor' && part.ratedVolt ? `${part.ratedVolt}V` : '');
  // How a switch is drawn is no value of it: one is not replaced by "closed".
  const value = part.kind === 'switch' ? 'switch' : partValue(part);
  return [value, rating].filter(Boolean).join(' ');
}
