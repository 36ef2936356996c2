import Printer from 'lucide-react/icons/printer';
import { useEffect, useState } from 'react';
import type { DiskContents } from '@hanzai/core/block';
import { beginning, GROUPS, type Group, type Typed } from '@hanzai/core/reckon';
import { DISK_GEOMETRIES } from '@hanzai/data';
import { Band } from '../case/Band';
import { Button } from '../ui/Button';
import { Keys } from '../ui/Keys';
import { Place } from '../ui/Place';
import { TextField } from '../ui/TextField';
import { Small } from '../ui/Words';
import { calculatorOf, findCalculators, fromSearch, reckonerPath } from './calculators';
import { DiskFiles } from './DiskFiles';
import { Reckoning } from './Reckoning';
import style from './Reckoner.module.css';

/** The calculator of disk layouts: below it, what becomes of the files of one disk. */
const LAYOUT = 'layout';

/** Every calculator of the bench in one place; the address carries what was typed. */
export function ReckonerPage({ search }: { search: string }) {
  return (
    <>
      <Band here="reckoner" />
      <Reckoner search={search} />
      <Keys
        keys={[
          ['Tab', 'to the next field'],
          ['Ctrl+P', 'print this one'],
          ['?', 'these keys'],
        ]}
      />
    </>
  );
}

export function Reckoner({ search }: { search: string }) {
  const [{ name, typed }, setShown] = useState(() => fromSearch(search));
  const [said, setSaid] = useState('');
  const [copied, setCopied] = useState(false);
  const calculator = calculatorOf(name);
  const path = reckonerPath(name, typed);
  const found = findCalculators(said);
  useEffect(() => {
    window.history.replaceState(null, '', path);
    setCopied(false);
  }, [path]);
  const show = (next: string, values: Typed = {}): void => setShown({ name: next, typed: values });
  return (
    <Place>
      <div className={style.page}>
        <nav className={style.list} aria-label="Calculators">
          <h1>Reckoner</h1>
          <TextField
            id="reckoner-find"
            label="Find"
            type="search"
            value={said}
            onChange={({ target }) => setSaid(target.value)}
          />
          <select
            className={style.pick}
            aria-label="Calculator"
            value={name}
            onChange={({ target }) => show(target.value)}
          >
            {found.map((one) => (
              <option key={one.name} value={one.name}>
                {one.title}
              </option>
            ))}
            {!found.includes(calculator) && <option value={name}>{calculator.title}</option>}
          </select>
          {found.length === 0 && <Small>No calculator has these words: fewer find more.</Small>}
          {(Object.keys(GROUPS) as Group[]).map((group) => {
            const own = found.filter((one) => one.group === group);
            return own.length === 0 ? null : (
              <section key={group}>
                <h2>{GROUPS[group]}</h2>
                <ul>
                  {own.map((one) => (
                    <li key={one.name}>
                      <button
                        type="button"
                        aria-current={one.name === name ? 'true' : undefined}
                        onClick={() => show(one.name)}
                      >
                        {one.title}
                      </button>
                    </li>
                  ))}
                </ul>
              </section>
            );
          })}
        </nav>
        <div>
          <Reckoning
            key={name}
            calculator={calculator}
            typed={typed}
            onTyped={(values) => show(name, values)}
          />
          {name === LAYOUT && <LayoutFiles typed={{ ...beginning(calculator), ...typed }} />}
          <p className={style.tools}>
            <Button onClick={() => window.print()}>
              <Printer size={18} aria-hidden="true" /> Print it
            </Button>{' '}
            <Button
              onClick={() =>
                void navigator.clipboard
                  .writeText(window.location.origin + path)
                  .then(() => setCopied(true))
              }
            >
              {copied ? 'Copied' : 'Copy a link with these numbers'}
            </Button>{' '}
            <Button onClick={() => show(name)}>As it began</Button>
          </p>
        </div>
      </div>
    </Place>
  );
}

function LayoutFiles({ typed }: { typed: Typed }) {
  const [contents, setContents] = useState<DiskContents>();
  const of = (name: string | undefined) => DISK_GEOMETRIES.find((one) => one.name === name);
  const [set, medium] = [of(typed.set), of(typed.medium)];
  if (!set || !medium) return null;
  return (
    <section aria-label="File by file">
      <h3>File by file</h3>
      <DiskFiles set={set} medium={medium} contents={contents} onContents={setContents} />
    </section>
  );
}
