import CircleQuestionMark from 'lucide-react/icons/circle-question-mark';
import { useState } from 'react';
import type { BoardIndex } from '@hanzai/core/board';
import { Dialog } from '../../ui/Dialog';
import { grammarExamples } from './examples';
import style from './Strip.module.css';

/** What the strip takes, by examples of this board; one that is pressed stands in the line. */
export function GrammarSheet({
  index,
  onPick,
}: {
  index: BoardIndex | undefined;
  onPick: (example: string) => void;
}) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <button
        type="button"
        className={style.icon}
        aria-label="What this line takes"
        title="What this line takes"
        onClick={() => setOpen(true)}
      >
        <CircleQuestionMark size={20} aria-hidden />
      </button>
      <Dialog title="What this line takes" open={open} onClose={() => setOpen(false)} wide>
        {open && (
          <GrammarLines
            index={index}
            onPick={(line) => {
              setOpen(false);
              onPick(line);
            }}
          />
        )}
      </Dialog>
    </>
  );
}

/** What the strip takes, line by line, with names of this board. onPick: what a press does. */
export function GrammarLines({
  index,
  onPick,
}: {
  index: BoardIndex | undefined;
  onPick?: (example: string) => void;
}) {
  return (
    <dl className={style.grammar}>
      {grammarExamples(index).map(({ line, words }) => (
        <div key={line}>
          <dt className="mono">
            {onPick ? (
              <button type="button" onClick={() => onPick(line)}>
                {line}
              </button>
            ) : (
              line
            )}
          </dt>
          <dd>{words}</dd>
        </div>
      ))}
    </dl>
  );
}
