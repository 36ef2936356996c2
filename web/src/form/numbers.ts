/** What stands in fields of figures, by their names; one that nobody touched is left out. */
export type Typed<Name extends string> = Readonly<Partial<Record<Name, string>>>;

/** The fields that hold a number above zero; a comma is a point. */
export function numbersOf<Name extends string>(typed: Typed<Name>): Partial<Record<Name, number>> {
  return Object.fromEntries(
    Object.entries<string | undefined>(typed).flatMap(([name, text = '']) => {
      const value = Number(text.trim().replace(',', '.'));
      return text.trim() !== '' && Number.isFinite(value) && value > 0 ? [[name, value]] : [];
    }),
  ) as Partial<Record<Name, number>>;
}
