import { useState } from 'react';
import { v7 } from 'uuid';
import { z } from 'zod';
import { Button } from '../ui/Button';
import { Dialog } from '../ui/Dialog';
import { Field } from '../ui/Field';
import { TextField } from '../ui/TextField';
import { Notice } from '../ui/Notice';
import { Panel } from '../ui/Panel';
import { Stack } from '../ui/Columns';
import { Rows } from '../ui/Rows';
import type { Of } from './journal';
import { PictureBoard } from './PictureBoard';
import { usePictureSource } from './picture-source';
import style from './Pictures.module.css';
import { useOutbox } from '../store/use-outbox';
import { shrink, tooLarge } from './pictures';
import { EntryForm, Refused } from '../form/EntryForm';
import { wholeCharacters } from './wording';
import { typedWords } from '../form/typed';
import { useEntryForm } from '../form/use-entry-form';
import type { CaseState } from './use-case';

type Kind = Of<'picture'>['body']['of'];

/**
 * Pictures of a case with notes pinned on them. of: what kind they are taken as here; all are
 * shown.
 */
export function Pictures({ state, of, title }: { state: CaseState; of: Kind; title: string }) {
  const { journal } = state;
  const [shown, setShown] = useState<string>();
  const picture = journal.pictures.find(({ body }) => body.picture === shown);

  const { waiting } = useOutbox();
  const [refusal, setRefusal] = useState<string>();
  /** Those on their way, by the id under which they will be known. */
  const onTheWay = new Set(
    waiting.flatMap(({ entry: { body } }) => (body.kind === 'picture' ? [body.picture] : [])),
  );

  async function take(files: readonly File[]): Promise<void> {
    setRefusal(undefined);
    for (const file of files) {
      const small = await shrink(file);
      const objection =
        tooLarge(file, small) ??
        state.append(
          {
            kind: 'picture',
            picture: v7(),
            title: wholeCharacters(file.name.replace(/\.\w+$/, ''), 120),
            of,
          },
          small,
        );
      if (objection) setRefusal(`${file.name}: ${objection}`);
    }
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
              <Thumbnail picture={body} />
              <span>{body.title || 'no title'}</span>
              <small>
                {onTheWay.has(body.picture)
                  ? 'waits to be sent'
                  : countOf(journal.pins, body.picture)}
              </small>
            </button>
          </li>
        ))}
      </ul>
      {refusal && (
        <Notice look="attention" live>
          {refusal}
        </Notice>
      )}
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
            void take([...(event.target.files ?? [])]);
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

/** A small picture: from the server, or from this browser while it waits to be sent. */
function Thumbnail({ picture }: { picture: Of<'picture'>['body'] }) {
  const source = usePictureSource(picture.picture, true);
  return <img src={source} alt={picture.title || 'picture'} loading="lazy" />;
}

function countOf(pins: CaseState['journal']['pins'], picture: string): string {
  const count = pins.filter(({ body }) => body.picture === picture).length;
  return count === 0 ? '' : `${count} note${count === 1 ? '' : 's'}`;
}

const NoteTyped = z.object({ text: typedWords(300, 'write what is there') });

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
  const [refusal, setRefusal] = useState<string>();
  const entry = useEntryForm(
    NoteTyped,
    { text: '' },
    {
      enter: ({ text }) => {
        if (!place) return 'tap the place on the picture first';
        const { picture: id } = picture.body;
        const objection = state.append({ kind: 'pin', picture: id, ...place, text });
        if (!objection) setPlace(undefined);
        return objection;
      },
      clears: ['text'],
    },
  );
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
      <Stack>
        <EntryForm label="A note" entry={entry}>
          <TextField id="pin-text" label="Note at the place tapped" {...entry.field('text')} />
          <Button type="submit">Pin it</Button>
        </EntryForm>
        <Rows as="ol">
          {pins.map(({ id, body }, i) => (
            <li key={id}>
              <span>
                <b>{i + 1}</b> {body.text}
              </span>
              <Button
                look="quiet"
                aria-label={`Take back note ${i + 1}`}
                onClick={() => state.append({ kind: 'retract', entry: id })}
              >
                Take back
              </Button>
            </li>
          ))}
        </Rows>
        <Button
          look="quiet"
          onClick={() => {
            const objection = state.append({ kind: 'retract', entry: picture.id });
            setRefusal(objection);
            if (!objection) onGone();
          }}
        >
          Take the picture out of the case
        </Button>
        <Refused words={refusal} />
      </Stack>
    </div>
  );
}
