import { useEffect, useMemo, useState } from 'react';
import { sectionLines, type Board } from '@hanzai/core/board';
import { LIBRARY, SECTIONS, type Section } from '@hanzai/data';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { Small } from '../ui/Words';
import { TextField } from '../ui/TextField';
import { netsByUse } from './completions';
import style from './SectionDialog.module.css';

/**
 * Sections of drive boards as they are drawn again and again: chosen, joined to the sheet's nets, put
 * in under names of its own. What the board does not have is taken away as any line.
 */
export function SectionDialog({
  board,
  open,
  first,
  onClose,
  onInsert,
}: {
  board: Board;
  open: boolean;
  /** The name of the section that is shown at first. */
  first?: string | undefined;
  onClose: () => void;
  onInsert: (lines: string) => void;
}) {
  const [search, setSearch] = useState('');
  const [chosen, setChosen] = useState<Section>(
    () => SECTIONS.find(({ name }) => name === first) ?? SECTIONS[0]!,
  );
  const [nets, setNets] = useState<Readonly<Record<string, string>>>({});
  // What was looked for the last time is in the way of what is looked for now.
  useEffect(() => {
    if (open) setSearch('');
  }, [open]);
  const words = search.toLowerCase().split(/\s+/).filter(Boolean);
  const found = SECTIONS.filter(({ title, name, fails }) => {
    const text = `${title} ${name} ${fails.join(' ')}`.toLowerCase();
    return words.every((word) => text.includes(word));
  });
  const lines = useMemo(() => sectionLines(chosen, board, nets, LIBRARY), [chosen, board, nets]);
  const known = useMemo(() => netsByUse(board), [board]);
  return (
    <Dialog title="Put a section in" open={open} onClose={onClose} wide>
      <div className={style.columns}>
        <div className={style.list}>
          <TextField
            id="section-search"
            label="Find a section, or what it does when it fails"
            value={search}
            onChange={(event) => setSearch(event.target.value)}
            placeholder="reset, stepper, hum"
          />
          <ul>
            {found.map((section) => (
              <li key={section.name}>
                <button
                  type="button"
                  aria-pressed={section === chosen}
                  onClick={() => {
                    setChosen(section);
                    setNets({});
                  }}
                >
                  {section.title}
                </button>
              </li>
            ))}
            {found.length === 0 && <li>No section of that kind.</li>}
          </ul>
        </div>
        <form
          className={style.chosen}
          aria-label={chosen.title}
          onSubmit={(event) => {
            event.preventDefault();
            onInsert(lines);
          }}
        >
          <h3>{chosen.title}</h3>
          <ul className={style.fails}>
            {chosen.fails.map((fail) => (
              <li key={fail}>{fail}</li>
            ))}
          </ul>
          <div className={style.ports}>
            {Object.entries(chosen.ports).map(([port, what]) => (
              <TextField
                key={`${chosen.name} ${port}`}
                id={`port-${port}`}
                label={what}
                className="mono"
                list="section-nets"
                placeholder={port}
                value={nets[port] ?? ''}
                onChange={(event) =>
                  setNets({ ...nets, [port]: event.target.value.replace(/\s/g, '') })
                }
              />
            ))}
            <datalist id="section-nets">
              {known.map((net) => (
                <option key={net} value={net} />
              ))}
            </datalist>
          </div>
          <pre className={style.lines}>{lines}</pre>
          <Small>
            Values are typical. Read the board&rsquo;s own off its parts, and take away what it does
            not have.
          </Small>
          <Button look="main" type="submit">
            Put it in
          </Button>
        </form>
      </div>
    </Dialog>
  );
}
