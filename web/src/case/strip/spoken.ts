const DIGITS: Readonly<Record<string, string>> = {
  zero: '0', oh: '0', one: '1', two: '2', three: '3', four: '4', five: '5', six: '6', seven: '7', eight: '8', nine: '9',
  ten: '10', eleven: '11', twelve: '12', thirteen: '13', fourteen: '14', fifteen: '15', sixteen: '16', seventeen: '17',
  eighteen: '18', nineteen: '19',
}; // prettier-ignore
const TENS: Readonly<Record<string, number>> = {
  twenty: 20, thirty: 30, forty: 40, fifty: 50, sixty: 60, seventy: 70, eighty: 80, ninety: 90,
}; // prettier-ignore
/** What stands behind a number. */
const UNITS: Readonly<Record<string, string>> = {
  kilo: 'k', kilohm: 'k', kilohms: 'k', k: 'k', megohm: 'M', megohms: 'M', mega: 'M', milli: 'm', millivolt: 'mV', millivolts: 'mV',
  milliamp: 'mA', milliamps: 'mA', micro: 'u', volt: 'V', volts: 'V', amp: 'A', amps: 'A',
}; // prettier-ignore
const WORDS: Readonly<Record<string, string>> = {
  overload: 'ol', 'over-load': 'ol', ohms: 'ohm', floating: 'float', pulsing: 'pulse', low: 'lo', high: 'hi', ground: 'gnd',
}; // prettier-ignore
/** Letters as they are said, where they come before a number: `see three` is C3. */
const LETTERS: Readonly<Record<string, string>> = {
  see: 'c', sea: 'c', cee: 'c', are: 'r', ar: 'r', you: 'u', dee: 'd', ell: 'l', el: 'l', queue: 'q', cue: 'q', ef: 'f',
  tea: 't', tee: 't', pee: 'p', pea: 'p', vee: 'v', em: 'm', en: 'n', ex: 'x', jay: 'j', kay: 'k',
}; // prettier-ignore

/**
 * What was heard, as a line of the strip: `see six one point oh three e s r` is `c6 1.03 esr`.
 * Nothing is guessed: words that are not known stay as they are.
 */
export function spokenLine(heard: string): string {
  const said = heard
    .toLowerCase()
    .replace(/[,!?]/g, ' ')
    .replace(/\be\.?\s*s\.?\s*r\b\.?/g, 'esr')
    .replace(/\bo\.?\s*l\b\.?/g, 'ol')
    .replace(/\bsemicolon\b/g, ' ; ')
    .split(/\s+/)
    .filter(Boolean);
  const out: string[] = [];
  for (let i = 0; i < said.length;) {
    const letter = LETTERS[said[i]!] ?? (/^[a-z]{1,2}$/.test(said[i]!) ? said[i]! : undefined);
    const [number, length] = numberAt(said, i);
    // A designator has one number; the digits after it are the value.
    const [own, taken] = wholeAt(said, i + 1);
    if (letter !== undefined && taken > 0) {
      let [name, at] = [`${letter}${own}`, i + 1 + taken];
      if (said[at] === 'pin' || said[at] === 'dot') {
        const [pin, more] = wholeAt(said, at + 1);
        if (more > 0) [name, at] = [`${name}.${pin}`, at + 1 + more];
      }
      out.push(name);
      i = at;
    } else if (letter === undefined && length > 0) {
      const unit = UNITS[said[i + length] ?? ''];
      out.push(`${number}${unit ?? ''}`);
      i += length + (unit === undefined ? 0 : 1);
    } else {
      out.push(WORDS[said[i]!] ?? said[i]!);
      i += 1;
    }
  }
  return out.join(' ').replace(/ ;/g, ';');
}

/** A whole number said as one: `twenty three`, `12`, `six`. Its digits and how many words it took. */
function wholeAt(said: readonly string[], at: number): readonly [string, number] {
  const word = said[at] ?? '';
  if (/^\d+$/.test(word)) return [word, 1];
  const tens = TENS[word];
  if (tens !== undefined) {
    const one = DIGITS[said[at + 1] ?? ''];
    return one !== undefined && one.length === 1 && one !== '0'
      ? [String(tens + Number(one)), 2]
      : [String(tens), 1];
  }
  const digit = DIGITS[word];
  return digit === undefined ? ['', 0] : [digit, 1];
}

/** A number said digit by digit or as one, with its point: `four point nine eight`. */
function numberAt(said: readonly string[], at: number): readonly [string, number] {
  if (/^[-+]?\d+(?:\.\d+)?$/.test(said[at] ?? '')) return [said[at]!, 1];
  let [text, length] = ['', 0];
  let point = false;
  if (said[at] === 'minus') [text, length] = ['-', 1];
  for (;;) {
    const word = said[at + length];
    if (word === 'point' && !point) {
      [text, point] = [`${text}.`, true];
      length += 1;
      continue;
    }
    const [digits, taken] = wholeAt(said, at + length);
    if (taken === 0) break;
    text += digits;
    length += taken;
  }
  return /\d/.test(text) ? [text, length] : ['', 0];
}
