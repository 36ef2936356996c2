import { useMemo, useState } from 'react';
import { replaceablePart, type BoardIndex } from '@hanzai/core/board';
import { placeOf } from '@hanzai/core/bench';
import { readSpec, specOfParts, UNKNOWN_PLACE } from '@hanzai/core/part';
import { LIBRARY } from '@hanzai/data';
import type { CaseState } from '../../case/use-case';
import { Refused } from '../../form/EntryForm';
import { reasonsOf } from '../../stock/LotTable';
import { rankLots } from '../../stock/rank';
import { freeOf } from '../../stock/stock';
import { useStock } from '../../stock/use-stock';
import { Button } from '../../ui/Button';
import { Fold } from '../../ui/Fold';
import { Rows } from '../../ui/Rows';
import { Small } from '../../ui/Words';

/** As many as are worth a look. */
const SHOWN = 5;

/** What the workshop has for a part, by how it fits its place. onTake: its words go into the form. */
export function FromStock({
  state,
  index,
  refdes,
  cameOff,
  onTake,
}: {
  state: CaseState;
  index: BoardIndex | undefined;
  refdes: string;
  cameOff: string;
  onTake: (text: string) => void;
}) {
  const [open, setOpen] = useState(false);
  return (
    <Fold onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary>What do I have for {refdes}?</summary>
      {open && (
        <Found state={state} index={index} refdes={refdes} cameOff={cameOff} onTake={onTake} />
      )}
    </Fold>
  );
}

function Found({ state, index, refdes, cameOff, onTake }: Parameters<typeof FromStock>[0]) {
  const stock = useStock();
  const [refusal, setRefusal] = useState<string>();
  const ranked = useMemo(() => {
    const parts = index && replaceablePart(index, refdes)?.parts;
    const was = parts ? specOfParts(parts) : readSpec(cameOff, LIBRARY);
    const place = parts ? placeOf(index, parts) : UNKNOWN_PLACE;
    return rankLots(was, stock.lots, place, Date.now());
  }, [index, refdes, cameOff, stock.lots]);
  const { number } = state.view;
  const move = async (lot: string, kind: 'take' | 'reserve', text: string): Promise<void> => {
    const why = await stock.move({ lot, kind, count: 1, case: number, note: refdes });
    setRefusal(why);
    if (why === undefined && kind === 'take') onTake(text);
  };
  const useful = ranked.filter(({ verdict }) => verdict !== 'no');
  const refused = ranked.length - useful.length;
  return (
    <>
      {useful.length === 0 && <Small>Nothing in stock would do for it.</Small>}
      <Rows>
        {useful.slice(0, SHOWN).map(({ lot, verdict, remarks }) => {
          const own = lot.keptFor.find((kept) => kept.case === number)?.count ?? 0;
          return (
            <li key={lot.id}>
              <span>
                <b className="mono">{lot.text}</b>{' '}
                {verdict === 'fits' ? 'fits' : `think of: ${reasonsOf(remarks)}`}
                <Small as="span">
                  {' '}
                  {[
                    lot.bin && `bin ${lot.bin}`,
                    lot.donor,
                    `${freeOf(lot)} free`,
                    own > 0 ? `${own} kept for this case` : '',
                  ]
                    .filter(Boolean)
                    .join(', ')}
                </Small>
              </span>
              <Button
                look="quiet"
                disabled={freeOf(lot) + own < 1}
                aria-label={`Take ${lot.text} for ${refdes}`}
                onClick={() => void move(lot.id, 'take', lot.text)}
              >
                Take one
              </Button>
              <Button
                look="quiet"
                disabled={freeOf(lot) < 1}
                aria-label={`Keep ${lot.text} for ${refdes}`}
                onClick={() => void move(lot.id, 'reserve', lot.text)}
              >
                Keep one
              </Button>
            </li>
          );
        })}
      </Rows>
      {refused > 0 && <Small>{refused} more of its kind do not fit.</Small>}
      <Refused words={refusal} />
    </>
  );
}
