import { calculators, type Calculator, type Typed } from '@hanzai/core/reckon';
import { DISK_GEOMETRIES } from '@hanzai/data';

/** Every calculator of the reckoner, with the disk layouts that ship. */
export const CALCULATORS: readonly Calculator[] = calculators(DISK_GEOMETRIES);

export const calculatorOf = (name: string): Calculator =>
  CALCULATORS.find((one) => one.name === name) ?? CALCULATORS[0]!;

/** Where the name of the calculator stands in an address; the rest of it is what was typed. */
const NAME = 'calculator';

/** The address that carries a calculator and its numbers. */
export const reckonerPath = (name: string, typed: Typed): string =>
  `/reckoner?${new URLSearchParams({ [NAME]: name, ...typed }).toString()}`;

/** What an address carries; fields that it does not name begin as they do. */
export function fromSearch(search: string): { readonly name: string; readonly typed: Typed } {
  const asked = new URLSearchParams(search);
  const { name, fields } = calculatorOf(asked.get(NAME) ?? '');
  return {
    name,
    typed: Object.fromEntries(
      fields.flatMap(({ name: field }) => {
        const value = asked.get(field);
        return value === null ? [] : [[field, value.slice(0, 2000)]];
      }),
    ),
  };
}

/** Calculators that have the words of a search in title or formula; all of them for none. */
export function findCalculators(said: string): readonly Calculator[] {
  const terms = said.toLowerCase().split(/\s+/).filter(Boolean);
  return CALCULATORS.filter(({ title, formula, fields }) => {
    const text = [title, formula, ...fields.map(({ label }) => label)].join(' ').toLowerCase();
    return terms.every((term) => text.includes(term));
  });
}
