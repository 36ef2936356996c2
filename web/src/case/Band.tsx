import { useState, type ReactNode } from 'react';
import { isOf, type Item } from '../store/outbox';
import { store } from '../store/store';
import { useOutbox } from '../store/use-outbox';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { Masthead } from '../ui/Masthead';
import { Notice } from '../ui/Notice';
import { personHere } from '../people/entered-by';
import { WhoIsHere } from '../people/WhoIsHere';
import { BackupWarning } from '../workshop/BackupWarning';
import style from './Band.module.css';
import { kindOf } from './kinds';

/**
 * The band of every page: where one is, whether everything on screen is stored, and what the server
 * would not take.
 */
export function Band({ here, children }: { here: string; children?: ReactNode }) {
  return (
    <Masthead here={here}>
      {children}
      <Stored />
      <NotStored />
      <BackupWarning />
      <WhoIsHere />
    </Masthead>
  );
}

/** Whether everything is stored, in words. Counts every case, not only the one on screen. */
function Stored() {
  const { waiting, aside, reachable, keeps } = useOutbox();
  const count = waiting.length;
  if (!keeps && (count > 0 || !reachable))
    return (
      <p className={style.unreachable} role="status">
        This browser keeps nothing (private window, or storage denied): {count}{' '}
        {count === 1 ? 'entry waits' : 'entries wait'} in this page alone. Leave it open until all
        is stored.
      </p>
    );
  if (!reachable)
    return (
      <p className={style.unreachable} role="status">
        The workshop server does not answer. {count} {count === 1 ? 'entry is' : 'entries are'} kept
        in this browser and will be sent when it is back.
      </p>
    );
  if (count === 0 && aside.length > 0) return null;
  const who = personHere();
  const own = waiting.filter((item) => isOf(item, who)).length;
  return (
    <p className={`${style.sync} ${count === 0 ? style.stored : ''}`} role="status">
      {count === 0
        ? 'all stored'
        : own === 0
          ? `${count} kept for who entered ${count === 1 ? 'it' : 'them'}`
          : `sending ${own} …`}
    </p>
  );
}

/** The tray of what will never be stored: it stays until somebody has seen why. */
function NotStored() {
  const { aside } = useOutbox();
  const [open, setOpen] = useState(false);
  if (aside.length === 0) return null;
  return (
    <>
      <Button look="attention" onClick={() => setOpen(true)}>
        {aside.length} not stored
      </Button>
      <Dialog title="Not stored" open={open} onClose={() => setOpen(false)} wide>
        <div className={style.tray}>
          {aside.map((item) => (
            <OneNotStored key={item.id} item={item} />
          ))}
        </div>
      </Dialog>
    </>
  );
}

/** One item that was not stored, with its reason and what can be done with it. */
export function OneNotStored({ item }: { item: Item }) {
  const { entry, aside, picture } = item;
  const { outbox } = store();
  return (
    <Notice look="attention" title="Not stored:" live>
      {entryWords(item)}: {aside}.{' '}
      <Button look="quiet" onClick={() => void outbox.again(item.id)}>
        Try again
      </Button>{' '}
      {picture ? (
        <Button look="quiet" onClick={() => saveFile(picture, 'picture')}>
          Save the picture
        </Button>
      ) : (
        <Button
          look="quiet"
          onClick={() => void navigator.clipboard.writeText(JSON.stringify(entry.body, null, 2))}
        >
          Copy it
        </Button>
      )}{' '}
      <Button look="quiet" onClick={() => void outbox.dismiss(item.id)}>
        Understood
      </Button>
    </Notice>
  );
}

function saveFile(file: Blob, name: string): void {
  const address = URL.createObjectURL(file);
  const link = Object.assign(document.createElement('a'), { href: address, download: name });
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), 1000);
}

/** An entry in the words in which it was made, or as what it is. */
function entryWords({ entry: { body } }: Item): string {
  const { words, said } = kindOf(body.kind);
  const own = said(body);
  return own ? `${words} “${own.slice(0, 80)}”` : words;
}
