import type { BoardIndex } from '@hanzai/core/board';
import { pointText } from '@hanzai/core/instrument';
import type { EntryBody } from '../entry';
import { runWords } from '../kind/proving';
import { aloneWords } from '../kind/surveying';
import { KIND_WORDS, SKIP_WORDS, percent, placeText, pointsText, valueText } from '../wording';
import type { StripItem } from './grammar';

const sat = (text = ''): string => (text === '' ? '' : `, ${text}`);
const note = (text: string): string => (text === '' ? '' : ` (${text})`);

/** What Enter would file, in words: `C3 comes off (100u)`. */
export function entryWords(body: EntryBody, index: BoardIndex | undefined): string {
  switch (body.kind) {
    case 'removed':
      return `${placeText(index, body.ref)} comes off${note(body.value)}${sat(body.sat)}${note(body.note)}`;
    case 'fitted':
      return `${placeText(index, body.ref)} goes on: ${body.value}, polarity ${body.polarityChecked ? 'checked' : 'not checked'}${sat(body.sat)}${note(body.note)}`;
    case 'leftOut':
      return `${placeText(index, body.ref)} stays off on purpose${note(body.note)}`;
    case 'finding':
      return `found: ${body.text}`;
    case 'symptom':
      return `symptom: ${body.text}`;
    case 'pause':
      return `left at: ${body.where}`;
    case 'code':
      return `the unit shows code ${body.code}`;
    case 'rail':
      return `rail ${body.net} has to have ${body.volt} V`;
    case 'condemn':
      return `${placeText(index, body.ref)} condemned (${percent(body.probability)}): ${body.reason}`;
    case 'leadZero':
      return `the leads held together show ${valueText('esr', body.ohm)}: taken off every ESR`;
    case 'offBoard':
      return `by itself: ${aloneWords(body)}`;
    case 'run':
      return `it ran: ${runWords(body)}${note(body.note)}`;
    case 'skip':
      return `${pointsText(index, body.at, body.to)} is passed over: ${SKIP_WORDS[body.why]}`;
    case 'acquit':
      return `the verdict on ${placeText(index, body.ref)} is taken off`;
    case 'seen':
      return `seen: ${body.what.replace(/-/g, ' ')}, ${body.sizeMm} mm${note(body.text)}`;
    case 'start':
      return [
        body.failedAt === null ? 'start: it came through' : `start: stops at ${body.failedAt}`,
        body.seconds === undefined ? '' : `after ${body.seconds} s`,
        body.tries === 1 ? '' : `${body.tries} tries`,
        body.conditions.join(', '),
        body.sounds === '' ? '' : `heard: ${body.sounds}`,
      ]
        .filter(Boolean)
        .join(', ');
    default:
      return body.kind;
  }
}

/** One item in a few words. */
export function itemWords(item: StripItem, index: BoardIndex | undefined): string {
  if (item.kind === 'back') return 'takes the last one back';
  if (item.kind === 'again') return 'files again what was taken back last';
  if (item.kind === 'entry') return entryWords(item.body, index);
  const { measurement: m, value } = item;
  return `${pointsText(index, m.kind === 'symptom' ? m.at.net : pointText(m.at), pointText(m.to))}, ${KIND_WORDS[m.kind]}, ${valueText(m.kind, value)}`;
}
