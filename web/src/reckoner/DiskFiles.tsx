import { useMemo, useState } from 'react';
import {
  filesWithin,
  MOST_IMAGE_BYTES,
  readDiskImage,
  readDiskListing,
  type DiskContents,
  type DiskGeometry,
  type DiskRead,
} from '@hanzai/core/block';
import { ColumnTable } from '../ui/ColumnTable';
import { Field } from '../ui/Field';
import { FormRow } from '../ui/FormRow';
import { Notice } from '../ui/Notice';
import { Small } from '../ui/Words';

/** Rows of the table; the rest is counted. */
const MOST_ROWS = 60;

const STATE_WORDS = { whole: 'whole', cut: 'cut', lost: 'lost' } as const;

/** Each file of a disk as a drive or host that is set one way would get it. */
export function DiskFiles({
  set,
  medium,
  contents,
  onContents,
}: {
  set: DiskGeometry;
  medium: DiskGeometry;
  contents: DiskContents | undefined;
  onContents: (contents: DiskContents | undefined) => void;
}) {
  const [text, setText] = useState('');
  const [refusal, setRefusal] = useState<string>();
  const take = (read: DiskRead): void => {
    onContents(read.ok ? read.contents : undefined);
    setRefusal(read.ok ? undefined : `${read.what}; expected ${read.expected}.`);
  };
  const takeFile = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    if (file.size > MOST_IMAGE_BYTES)
      return take({
        ok: false,
        what: `${file.name} is larger than any flexible disk`,
        expected: 'an image or a listing of 4 MB at most',
      });
    const bytes = new Uint8Array(await file.arrayBuffer());
    const read = readDiskImage(bytes);
    // What is no image may be a listing that somebody saved.
    const isText = !read.ok && !bytes.includes(0);
    take(isText ? readDiskListing(new TextDecoder().decode(bytes), medium) : read);
  };
  return (
    <>
      <FormRow>
        <Field
          id="disk-image"
          label="Image of the disk, or its listing"
          hint="stays in this browser"
        >
          <input
            id="disk-image"
            type="file"
            onChange={({ target }) => void takeFile(target.files?.[0])}
          />
        </Field>
        <Field
          id="disk-listing"
          label="Or type its directory"
          hint="a file a line: LETTER.TXT 12345, with @ and its first sector where that is known"
        >
          <textarea
            id="disk-listing"
            className="mono"
            rows={4}
            spellCheck={false}
            value={text}
            onChange={({ target }) => {
              setText(target.value);
              if (target.value.trim() === '') {
                onContents(undefined);
                setRefusal(undefined);
              } else take(readDiskListing(target.value, medium));
            }}
          />
        </Field>
      </FormRow>
      {refusal !== undefined && (
        <Notice look="attention" live>
          {refusal}
        </Notice>
      )}
      {contents && <Within set={set} medium={medium} contents={contents} />}
    </>
  );
}

function Within({
  set,
  medium,
  contents,
}: {
  set: DiskGeometry;
  medium: DiskGeometry;
  contents: DiskContents;
}) {
  const { files, directory } = useMemo(
    () => filesWithin(set, medium, contents),
    [set, medium, contents],
  );
  return (
    <>
      <p>
        <b>{filesSummary(set, medium, contents)}</b>{' '}
        {directory !== undefined &&
          (directory ? 'The directory is within reach.' : 'The directory itself is out of reach.')}
      </p>
      {files.length > 0 && (
        <ColumnTable
          rows={files.slice(0, MOST_ROWS)}
          keyOf={({ name }) => name}
          columns={[
            { name: 'File', cell: ({ name }) => name, mono: true },
            { name: 'Bytes', cell: ({ bytes }) => bytes.toLocaleString('en'), mono: true },
            {
              name: 'Comes',
              cell: ({ state, upTo, within }) =>
                state === 'whole'
                  ? STATE_WORDS.whole
                  : state === 'cut'
                    ? `cut after ${upTo.toLocaleString('en')} bytes; ${within.toLocaleString('en')} of it in all`
                    : within === 0
                      ? STATE_WORDS.lost
                      : `its beginning is lost; ${within.toLocaleString('en')} bytes of it come`,
            },
          ]}
        />
      )}
      {files.length > MOST_ROWS && <Small>And {files.length - MOST_ROWS} more.</Small>}
      {contents.notes.map((note) => (
        <Small key={note}>{note[0]!.toUpperCase() + note.slice(1)}.</Small>
      ))}
    </>
  );
}

/** What becomes of the files, in a sentence. */
export function filesSummary(
  set: DiskGeometry,
  medium: DiskGeometry,
  contents: DiskContents,
): string {
  const { files } = filesWithin(set, medium, contents);
  const of = (state: string): number => files.filter((one) => one.state === state).length;
  return `${files.length} ${files.length === 1 ? 'file' : 'files'}: ${of('whole')} whole, ${of('cut')} cut, ${of('lost')} without their beginning.`;
}
