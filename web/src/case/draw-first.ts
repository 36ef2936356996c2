import { SECTIONS, type Section } from '@hanzai/data';
import type { Journal } from './journal';

/** What to draw first where there is no sheet: a point that reads wrong, and the section that fits it. */
export interface DrawFirst {
  readonly net: string;
  readonly why: string;
  readonly section: Section | undefined;
}

/** Words of a net's name, and the section of the library that is drawn about such a net. */
// prettier-ignore
const ABOUT: readonly (readonly [RegExp, string])[] = [
  [/^(N?RES(ET)?|RST)/i, 'reset'],
  [/^(CLK|OSC|XT|PH[012])/i, 'clock'],
  [/^(V?M(OT)?|VMOT|P12|12V|V12)/i, 'supply-entry'],
  [/^[+]?(P5|VCC|V?5V|5V?|VDD)/i, 'regulator-positive'],
  [/^(VREF|REF)/i, 'regulator-discrete'],
  [/^(M5|M12|N5|N12|VEE|-)/i, 'regulator-negative'],
];

/** A rail further from what it should be than this is where to begin. */
const WRONG_BY = 0.05;

/**
 * The points worth drawing first: rails that were named and read wrong, then parts that were found
 * bad, then what else was read. At most three.
 */
export function drawFirst(journal: Journal): readonly DrawFirst[] {
  const found: DrawFirst[] = [];
  const add = (net: string, why: string): void => {
    if (net !== '' && !found.some((one) => one.net === net))
      found.push({ net, why, section: sectionFor(net) });
  };
  const readOf = (net: string): number | undefined => {
    const newest = journal.loose.findLast(
      ({ current, entry: { body } }) =>
        current && body.quantity === 'voltage' && body.at.toUpperCase() === net.toUpperCase(),
    )?.entry.body.value;
    return typeof newest === 'number' ? newest : undefined;
  };
  for (const { body } of journal.rails) {
    const read = readOf(body.net);
    if (read !== undefined && Math.abs(read - body.volt) > WRONG_BY * Math.abs(body.volt))
      add(
        body.net,
        `it reads ${read} V and should be ${body.volt} V: what feeds it and what loads it`,
      );
  }
  for (const { body } of journal.condemned)
    add(body.ref.toUpperCase(), 'found bad: what shares its nets, and its brothers');
  for (const { entry } of journal.loose)
    if (entry.body.quantity === 'voltage')
      add(entry.body.at.toUpperCase(), 'it was read: what drives it would say what it should be');
  return found.slice(0, 3);
}

function sectionFor(net: string): Section | undefined {
  const key = ABOUT.find(([words]) => words.test(net))?.[1];
  return key === undefined ? undefined : SECTIONS.find((one) => one.name === key);
}
