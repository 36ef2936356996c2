import { amountOf, amounts, assigned, millimetres } from '../words';
import { meant, said, type Fields, type Reader } from './said';

export const readSwitch: Reader<'switch'> = (text) => {
  const list = amounts(text);
  return said<Fields<'switch'>>({
    contact: meant(text, [
      [/\b(NC|normally[ -]closed|break)\b/i, 'NC' as const],
      [/\b(NO|normally[ -]open|make)\b/i, 'NO' as const],
      [/\b(CO|change-?over|spdt|dpdt)\b/i, 'CO' as const],
    ]),
    latching: meant(text, [
      [/\blatching\b|\btoggle\b|\bslide\b/i, true],
      [/\b(momentary|push|leaf|micro)\b/i, false],
    ]),
    volt: amountOf(list, 'V'),
    ampere: amountOf(list, 'A'),
  });
};

export const readConnector: Reader<'connector'> = (text) => {
  const ways = /\b(\d{1,3})[ -]?(?:ways?|pins?|contacts?|poles?)\b/i.exec(text)?.[1];
  return said<Fields<'connector'>>({
    ways: ways === undefined ? undefined : Number(ways),
    side: meant(text, [
      [/\b(header|plug|male)\b/i, 'pins' as const],
      [/\b(socket|receptacle|female|housing)\b/i, 'sockets' as const],
    ]),
    ampere: amountOf(amounts(text), 'A'),
  });
};

export const readMotor: Reader<'motor'> = (text) => {
  const list = amounts(text);
  return said<Fields<'motor'>>({
    type: /\bstepp(er|ing)\b/i.test(text)
      ? 'stepper'
      : /\b(dc|spindle|sled|brush(ed)?)\b/i.test(text)
        ? 'direct'
        : undefined,
    volt: amountOf(list, 'V'),
    ohm: amountOf(list, 'ohm'),
    shaftMm: assigned(text.replace(/mm\b/gi, ''), 'shaft') ?? millimetres(text)[0],
    turns: meant(text, [
      [/\b(ccw|counter-?clockwise|anti-?clockwise)\b/i, 'counter-clockwise' as const],
      [/\b(cw|clockwise)\b/i, 'clockwise' as const],
    ]),
  });
};

export const readBelt: Reader<'belt'> = (text) => {
  const lengths = millimetres(text);
  const teeth = /\b(\d{2,3})\s*(?:teeth|t)\b/i.exec(text)?.[1];
  return said<Fields<'belt'>>({
    lengthMm: assigned(text.replace(/mm\b/gi, ''), 'length|l') ?? lengths[0],
    sectionMm: assigned(text.replace(/mm\b/gi, ''), 'section|thick(?:ness)?') ?? lengths[1],
    shape: meant(text, [
      [/\b(toothed|timing)\b/i, 'toothed' as const],
      [/\bround\b/i, 'round' as const],
      [/\bsquare\b/i, 'square' as const],
      [/\bflat\b/i, 'flat' as const],
    ]),
    teeth: teeth === undefined ? undefined : Number(teeth),
  });
};
