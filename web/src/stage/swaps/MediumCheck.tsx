import { useMemo, useState } from 'react';
import { capacityBytes, DiskGeometry, forecast, type DiskContents } from '@hanzai/core/block';
import { DISK_GEOMETRIES } from '@hanzai/data';
import { percent } from '../../case/wording';
import { DiskFiles, filesSummary } from '../../reckoner/DiskFiles';
import { Field } from '../../ui/Field';
import { Notice } from '../../ui/Notice';
import { Stack } from '../../ui/Columns';
import { Table } from '../../ui/Table';
import { FormRow, Narrow } from '../../ui/FormRow';
import { AsEvidence, type Compared } from './AsEvidence';
import tone from '../../ui/Words.module.css';

// prettier-ignore
const NUMBERS = [
  ['tracksPerSide', 'Tracks'], ['sides', 'Sides'], ['sectorsPerTrack', 'Sectors'], ['bytesPerSector', 'Bytes'], ['bitsPerSecond', 'Bit/s'], ['revPerMinute', 'Rev/min'], ['tracksPerInch', 'Tracks/inch'],
  ['coerciveOersted', 'Coating, oersted'], ['directoryAt', 'Directory, 0 outer to 1 inner'],
] as const;

type Draft = Record<(typeof NUMBERS)[number][0], string> & { name: string };

function draftOf(geometry: DiskGeometry): Draft {
  return {
    name: geometry.name,
    ...Object.fromEntries(NUMBERS.map(([key]) => [key, String(geometry[key])])),
  } as Draft;
}

function read(draft: Draft): ReturnType<typeof DiskGeometry.safeParse> {
  return DiskGeometry.safeParse({
    name: draft.name,
    source: 'typed',
    ...Object.fromEntries(NUMBERS.map(([key]) => [key, Number(draft[key])])),
  });
}

/**
 * What will work and what will fail where drive or host are set one way and the medium is laid out
 * another.
 */
export function MediumCheck({ onFile }: { onFile: (found: Compared) => string | undefined }) {
  const [set, setSet] = useState(() => ({
    ...draftOf(DISK_GEOMETRIES[0]!),
    sectorsPerTrack: '15',
  }));
  const [medium, setMedium] = useState(() => draftOf(DISK_GEOMETRIES[0]!));
  const [a, b] = useMemo(() => [read(set), read(medium)] as const, [set, medium]);
  const [contents, setContents] = useState<DiskContents>();
  const said = a.success && b.success ? forecast(a.data, b.data) : undefined;
  return (
    <Stack>
      <Geometry id="set" title="Drive or host is set for" draft={set} onChange={setSet} />
      <Geometry id="medium" title="The medium is" draft={medium} onChange={setMedium} />
      {!said && (
        <Notice look="attention">
          A number is missing or out of the world of disks:{' '}
          {[a, b]
            .flatMap((one) =>
              one.success ? [] : one.error.issues.map(({ path }) => String(path[0])),
            )
            .join(', ')}
          .
        </Notice>
      )}
      {said && b.success && (
        <>
          <p>
            {said.mismatches.length === 0 ? (
              <b className={tone.good}>They go together.</b>
            ) : (
              <>
                <b>{said.mismatches.map(({ words }) => words).join('; ')}.</b>{' '}
                {percent(said.outOfReach)} of {capacityBytes(b.data).toLocaleString('en')} bytes out
                of reach.
              </>
            )}
          </p>
          <Table>
            <tbody>
              {said.operations.map(({ name, works, because }) => (
                <tr key={name}>
                  <th scope="row">{name}</th>
                  <td>
                    <b className={works === 'yes' ? tone.good : tone.attention}>
                      {works === 'yes' ? 'works' : works === 'no' ? 'fails' : 'in part'}
                    </b>
                  </td>
                  <td>{because}</td>
                </tr>
              ))}
            </tbody>
          </Table>
          <DiskFiles set={a.data!} medium={b.data} contents={contents} onContents={setContents} />
          <AsEvidence
            onFile={onFile}
            found={{
              good: said.mismatches.length === 0,
              words: [
                `layout, ${a.data!.name} and ${b.data.name}: ${said.mismatches.map(({ words }) => words).join('; ') || 'they go together'}`,
                ...(contents ? [filesSummary(a.data!, b.data, contents)] : []),
              ].join('. '),
            }}
          />
        </>
      )}
    </Stack>
  );
}

function Geometry({
  id,
  title,
  draft,
  onChange,
}: {
  id: string;
  title: string;
  draft: Draft;
  onChange: (draft: Draft) => void;
}) {
  return (
    <FormRow>
      <Field id={`${id}-kind`} label={title}>
        <select
          id={`${id}-kind`}
          value={DISK_GEOMETRIES.some(({ name }) => name === draft.name) ? draft.name : ''}
          onChange={(event) =>
            onChange(draftOf(DISK_GEOMETRIES.find(({ name }) => name === event.target.value)!))
          }
        >
          {DISK_GEOMETRIES.map(({ name }) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </Field>
      {NUMBERS.map(([key, label]) => (
        <Narrow key={key}>
          <Field id={`${id}-${key}`} label={label}>
            <input
              id={`${id}-${key}`}
              inputMode="numeric"
              value={draft[key]}
              onChange={(event) => onChange({ ...draft, [key]: event.target.value })}
            />
          </Field>
        </Narrow>
      ))}
    </FormRow>
  );
}
