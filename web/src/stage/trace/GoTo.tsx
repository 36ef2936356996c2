import { Command } from 'cmdk';
import { GROUND, isInsidePackage, partValue, type BoardIndex } from '@hanzai/core/board';
import { Dialog } from '../../ui/Dialog';
import { partTitle } from '../../case/wording';
import style from './GoTo.module.css';

/** Finds a part or a net by a few letters and puts it into the reading line. */
export function GoTo({
  index,
  open,
  onClose,
  onPick,
}: {
  index: BoardIndex;
  open: boolean;
  onClose: () => void;
  onPick: (text: string) => void;
}) {
  const pick = (text: string): void => {
    onClose();
    setTimeout(() => onPick(text.toLowerCase()), 0);
  };
  return (
    <Dialog title="Go to a part or net" open={open} onClose={onClose}>
      <Command className={style.finder} label="Parts and nets">
        <Command.Input className={style.input} placeholder="for example f1, motor supply, vm" />
        <Command.List className={style.list}>
          <Command.Empty>No such part or net on this sheet.</Command.Empty>
          <Command.Group heading="Parts">
            {index.board.parts
              .filter(({ ref }) => !isInsidePackage(ref))
              .map((part) => (
                <Command.Item
                  key={part.ref}
                  value={`${part.ref} ${part.role ?? ''}`}
                  onSelect={() => pick(part.ref)}
                >
                  <b className="mono">{part.ref}</b> {partTitle([part])}{' '}
                  {part.role ? partValue(part) : ''}
                </Command.Item>
              ))}
          </Command.Group>
          <Command.Group heading="Nets">
            {index.nets
              .filter((net) => net !== GROUND)
              .map((net) => (
                <Command.Item key={net} value={`net ${net}`} onSelect={() => pick(net)}>
                  <b className="mono">{net}</b> net
                </Command.Item>
              ))}
          </Command.Group>
        </Command.List>
      </Command>
    </Dialog>
  );
}
