import { useState } from 'react';
import { v7 } from 'uuid';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { Field } from '../ui/Field';
import { Notice } from '../ui/Notice';
import { Panel } from '../ui/Panel';
import sheet from '../ui/Sheet.module.css';
import type { Of } from './journal';
import { PictureBoard } from './PictureBoard';
import style from './Pictures.module.css';
import { sendPicture } from './pictures';
import type { CaseState } from './use-case';

type Kind = Of<'picture'>['body']['of'];

/** A picture on its way, or one that could not be sent yet. */
interface Waiting {
  readonly id: string;
  readonly file: File;
  readonly title: string;
  readonly detail: string | undefined;
  readonly again: boolean;
}

/**
 * Pictures of a case with notes pinned on them. of: what kind they are taken as here; all are
 * shown.
 */
export function Pictures({ state, of, title }: { state: CaseState; of: Kind; title: string }) {
  const { journal } = state;
  const [waiting, setWaiting] = useState<readonly Waiting[]>([]);
  const [shown, setShown] = useState<string>();
  const picture = journal.pictures.find(({ body }) => body.picture === shown);

  async function send(one: Waiting): Promise<void> {
    setWaiting((list) => [
      ...list.filter(({ id }) => id !== one.id),
      { ...one, detail: undefined },
    ]);
    const sent = await sendPicture(state.view.id, one.file, one.id);
    const objection = sent.ok
      ? state.file({ kind: 'picture', picture: sent.id, title: one.title, of })
      : undefined;
    if (sent.ok && !objection) setWaiting((list) => list.filter(({ id }) => id !== one.id));
    else
      setWaiting((list) =>
        list.map((other) =>
          other.id === one.id
            ? { ...one, detail: sent.ok ? objection : sent.detail, again: !sent.ok && sent.again }
            : other,
        ),
      );
  }

  function take(files: FileList | null): void {
    for (const file of files ?? [])
      void send({
        id: v7(),
        file,
        title: file.name.replace(/\.\w+$/, '').slice(0, 120),
        detail: undefined,
        again: false,
      });
  }

  return (
    <Panel
      title={title}
      aside={journal.pictures.length > 0 ? `${journal.pictures.length} in the case` : undefined}
    >
      {journal.pictures.length === 0 && (
        <Notice>
          Take it as it came, before anything is touched: from above, the plugs, what is broken.
          Open a picture to pin notes on it.
        </Notice>
      )}
      <ul className={style.strip}>
        {journal.pictures.map(({ id, body }) => (
          <li key={id}>
            <button type="button" className={style.thumb} onClick={() => setShown(body.picture)}>
              <img
                src={`/api/pictures/${body.picture}?small`}
                alt={body.title || 'picture'}
                loading="lazy"
              />
              <span>{body.title || 'no title'}</span>
              <small>{countOf(journal.pins, body.picture)}</small>
            </button>
          </li>
        ))}
      </ul>
      {waiting.map((one) => (
        <Notice key={one.id} look={one.detail ? 'attention' : 'plain'} live>
          {one.file.name}: {one.detail ?? 'being sent …'}{' '}
          {one.again && (
            <Button look="quiet" onClick={() => void send(one)}>
              Try again
            </Button>
          )}
          {one.detail && (
            <Button
              look="quiet"
              onClick={() => setWaiting((list) => list.filter(({ id }) => id !== one.id))}
            >
              Leave it out
            </Button>
          )}
        </Notice>
      ))}
      <Field
        id={`picture-${of}`}
        label="Add pictures"
        hint="From the camera or from files: JPEG, PNG or WebP."
      >
        <input
          id={`picture-${of}`}
          type="file"
          accept="image/*"
          multiple
          onChange={(event) => {
            take(event.target.files);
            event.target.value = '';
          }}
        />
      </Field>
      <Dialog
        title={picture?.body.title ?? 'Picture'}
        open={picture !== undefined}
        onClose={() => setShown(undefined)}
        wide
      >
        {picture && <Noted state={state} picture={picture} onGone={() => setShown(undefined)} />}
      </Dialog>
    </Panel>
  );
}

function countOf(pins: CaseState['journal']['pins'], picture: string): string {
  const count = pins.filter(({ body }) => body.picture === picture).length;
  return count === 0 ? '' : `${count} note${count === 1 ? '' : 's'}`;
}

/** One picture with its notes; a tap pins another. */
function Noted({
  state,
  picture,
  onGone,
}: {
  state: CaseState;
  picture: Of<'picture'>;
  onGone: () => void;
}) {
  const [place, setPlace] = useState<{ x: number; y: number }>();
  const [text, setText] = useState('');
  const [refusal, setRefusal] = useState<string>();
  const pins = state.journal.pins.filter(({ body }) => body.picture === picture.body.picture);
  return (
    <div className={style.noted}>
      <PictureBoard
        picture={picture.body.picture}
        title={picture.body.title}
        marks={[
          ...pins.map(({ body }) => ({ x: body.x, y: body.y })),
          ...(place ? [{ ...place, fresh: true }] : []),
        ]}
        onPlace={setPlace}
      />
      <div className={sheet.body}>
        <form
          className={sheet.body}
          onSubmit={(event) => {
            event.preventDefault();
            if (!place) return setRefusal('tap the place on the picture first');
            if (text.trim() === '') return setRefusal('write what is there');
            const objection = state.file({
              kind: 'pin',
              picture: picture.body.picture,
              ...place,
              text: text.trim().slice(0, 300),
            });
            setRefusal(objection);
            if (objection) return;
            setPlace(undefined);
            setText('');
          }}
        >
          <Field id="pin-text" label="Note at the place tapped" error={refusal}>
            <input id="pin-text" value={text} onChange={(event) => setText(event.target.value)} />
          </Field>
          <Button type="submit">Pin it</Button>
        </form>
        <ol className={sheet.rows}>
          {pins.map(({ id, body }, i) => (
            <li key={id}>
              <span>
                <b>{i + 1}</b> {body.text}
              </span>
              <Button
                look="quiet"
                aria-label={`Take back note ${i + 1}`}
                onClick={() => state.file({ kind: 'retract', entry: id })}
              >
                Take back
              </Button>
            </li>
          ))}
        </ol>
        <Button
          look="quiet"
          onClick={() => {
            const objection = state.file({ kind: 'retract', entry: picture.id });
            setRefusal(objection);
            if (!objection) onGone();
          }}
        >
          Take the picture out of the case
        </Button>
      </div>
    </div>
  );
}
