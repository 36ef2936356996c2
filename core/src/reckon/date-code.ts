/**
 * Years of the twenty-year cycle of IEC 60062, from memory: A is 1990 and 2010, no I, O, Q, Y, Z,
 * G.
 */
const YEAR_LETTERS = 'ABCDEFHJKLMNPRSTUVWX';
const MONTHS = '123456789OND';
const MONTH_NAMES = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];

/**
 * All that a date code may mean, as words, likeliest last century first. Empty where it is none.
 */
export function readDateCode(said: string, thisYear: number): readonly string[] {
  const code = said.trim().toUpperCase();
  const [, yy, ww] = /^(\d{2})(\d{2})$/.exec(code) ?? [];
  const meanings: string[] = [];
  const weekOk = (week: number): boolean => week >= 1 && week <= 53;
  const centuries = (two: number): number[] =>
    [1900 + two, 2000 + two].filter((year) => year <= thisYear && year >= 1960);
  if (yy && ww) {
    if (weekOk(Number(ww)))
      meanings.push(...centuries(Number(yy)).map((year) => `week ${Number(ww)} of ${year}`));
    if (weekOk(Number(yy)))
      meanings.push(
        ...centuries(Number(ww)).map(
          (year) => `week ${Number(yy)} of ${year}, if the week stands first`,
        ),
      );
  }
  const [, y, week] = /^(\d)(\d{2})$/.exec(code) ?? [];
  if (y && week && weekOk(Number(week)))
    for (let year = 1960 + Number(y); year <= thisYear; year += 10)
      meanings.push(`week ${Number(week)} of ${year}`);
  const [, letter, month] = /^([A-HJ-NPR-X])([1-9OND])$/.exec(code) ?? [];
  if (letter && month && YEAR_LETTERS.includes(letter))
    for (let year = 1970 + YEAR_LETTERS.indexOf(letter); year <= thisYear; year += 20)
      meanings.push(`${MONTH_NAMES[MONTHS.indexOf(month)]} ${year}`);
  return meanings;
}
