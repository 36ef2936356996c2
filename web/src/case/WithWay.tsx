import { STAGES, stageTitle } from './stages';

const TITLES = new Map(STAGES.map((stage) => [stageTitle(stage), stage]));
const NAMED = new RegExp(`\\b(${[...TITLES.keys()].join('|')})\\b`);

/** What stands against something, in words; a stage that it names is a link to it. */
export function WithWay({ words }: { words: string }) {
  return words.split(NAMED).map((part, i) => {
    const stage = TITLES.get(part);
    return stage ? (
      <a key={i} href={stage}>
        {part}
      </a>
    ) : (
      part
    );
  });
}
