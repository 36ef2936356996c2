/** The fields that hold a number above zero; a comma is a point. */
export function numbersOf<Name extends string>(
  typed: Readonly<Record<string, string>>,
): Partial<Record<Name, number>> {
  return Object.fromEntries(
    Object.entries(typed).flatMap(([name, text]) => {
      const value = Number(text.trim().replace(',', '.'));
      return text.trim() !== '' && Number.isFinite(value) && value > 0 ? [[name, value]] : [];
    }),
  ) as Partial<Record<Name, number>>;
}
