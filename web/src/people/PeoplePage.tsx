import { useQuery } from '@tanstack/react-query';
import { format } from 'date-fns/format';
import { useState } from 'react';
import { z } from 'zod';
import { Band } from '../case/Band';
import { ask, whyNot, withBody } from '../store/answers';
import { store } from '../store/store';
import { Button } from '../ui/Button';
import { ColumnTable } from '../ui/ColumnTable';
import { Field } from '../ui/Field';
import { Fold } from '../ui/Fold';
import { Keys } from '../ui/Keys';
import { Notice } from '../ui/Notice';
import { Panel } from '../ui/Panel';
import { Place } from '../ui/Place';
import { TextField } from '../ui/TextField';
import { Person, PersonName, Role, ROLE_WORDS } from './role';
import { OwnAccount } from './OwnAccount';
import style from './People.module.css';
import { useMe } from './use-me';

const Listed = Person.extend({ hasCode: z.boolean(), sessions: z.number() });
const Everybody = z.object({
  people: z.array(Listed),
  audit: z.array(z.object({ at: z.string(), who: z.string(), what: z.string() })),
});
const Code = z.object({ code: z.string() });
const KEY = ['people'];

/** Who works in the workshop: the owner adds people; everybody has his password and his sessions. */
export function PeoplePage({ passkeysAt }: { passkeysAt: string | undefined }) {
  const me = useMe();
  return (
    <>
      <Band here="people" />
      <Place>
        <h1>People</h1>
        {me === undefined && <p role="status">Being looked up …</p>}
        {me && <OwnAccount me={me} passkeysAt={passkeysAt} />}
        {(me === null || me?.role === 'owner') && <Everyone isOpen={me === null} />}
      </Place>
      <Keys
        keys={[
          ['Tab', 'to the next field'],
          ['Enter', 'add or keep'],
          ['?', 'these keys'],
        ]}
      />
    </>
  );
}

function Everyone({ isOpen }: { isOpen: boolean }) {
  const { queries } = store();
  const { data, error } = useQuery(
    { queryKey: KEY, queryFn: () => ask('/api/people', Everybody) },
    queries,
  );
  const [given, setGiven] = useState<{ readonly name: string; readonly code: string }>();
  const [refusal, setRefusal] = useState<string>();
  const again = (): Promise<void> => queries.invalidateQueries({ queryKey: KEY });

  async function change(id: string, name: string, what: object): Promise<void> {
    setRefusal(undefined);
    try {
      const { code } = await ask(`/api/people/${id}`, Code.partial(), withBody('PATCH', what));
      if (code !== undefined) setGiven({ name, code });
    } catch (failed) {
      setRefusal(whyNot(failed));
    }
    await again();
  }

  return (
    <>
      {isOpen && !given && (
        <Notice title="Nobody signs in here.">
          Whoever sits at this machine is everybody. Once an owner is added, people sign in, and
          every entry says who made it. There is no way back but a restored backup.
        </Notice>
      )}
      {given && (
        <Notice look="good" title={`For ${given.name}, once:`} live>
          <span className={style.code}>{given.code}</span> signs in in the place of a password, and
          is shown nowhere again. {isOpen && <a href="/sign-in?to=/people">Sign in with it now.</a>}
        </Notice>
      )}
      {(refusal ?? error) && (
        <Notice look="attention" live>
          {refusal ?? whyNot(error)}
        </Notice>
      )}
      {!(isOpen && given) && (
        <AddPerson
          isFirst={data?.people.length === 0}
          onAdded={async (name, code) => {
            setGiven({ name, code });
            if (!isOpen) await again();
          }}
        />
      )}
      {data && data.people.length > 0 && (
        <Panel title="Who works here" aside={String(data.people.length)}>
          <ColumnTable
            rows={data.people}
            keyOf={({ id }) => id}
            columns={[
              {
                name: 'Name',
                cell: ({ name, hasCode }) => (hasCode ? `${name}, with a code` : name),
              },
              {
                name: 'Is',
                cell: ({ id, name, role }) => (
                  <select
                    aria-label={`What ${name} is`}
                    value={role}
                    onChange={({ target }) => void change(id, name, { role: target.value })}
                  >
                    {Role.options.map((one) => (
                      <option key={one} value={one}>
                        {ROLE_WORDS[one]}
                      </option>
                    ))}
                  </select>
                ),
              },
              { name: 'Signed in', cell: ({ sessions }) => String(sessions), mono: true },
              {
                name: 'Change',
                cell: ({ id, name }) => (
                  <span className={style.row}>
                    <Button
                      look="quiet"
                      aria-label={`New code for ${name}`}
                      onClick={() => void change(id, name, { newCode: true })}
                    >
                      New code
                    </Button>
                    <Button
                      look="quiet"
                      aria-label={`${name} leaves`}
                      onClick={() => void change(id, name, { leaves: true })}
                    >
                      Leaves
                    </Button>
                  </span>
                ),
              },
            ]}
          />
        </Panel>
      )}
      {data && data.audit.length > 0 && (
        <Fold>
          <summary>What was done to the workshop itself</summary>
          <ol>
            {data.audit.map(({ at, who, what }, i) => (
              <li key={i}>
                {format(new Date(at), 'd MMM yyyy HH:mm')}, {who}: {what}
              </li>
            ))}
          </ol>
        </Fold>
      )}
    </>
  );
}

function AddPerson({
  isFirst,
  onAdded,
}: {
  isFirst: boolean | undefined;
  onAdded: (name: string, code: string) => Promise<void>;
}) {
  const [name, setName] = useState('');
  const [chosen, setRole] = useState<Role>('repairer');
  const [wrong, setWrong] = useState<string>();
  const role = isFirst ? 'owner' : chosen;

  async function add(): Promise<void> {
    const read = PersonName.safeParse(name);
    if (!read.success) return setWrong(read.error.issues[0]?.message);
    try {
      const { code } = await ask('/api/people', Code, withBody('POST', { name: read.data, role }));
      setWrong(undefined);
      setName('');
      await onAdded(read.data, code);
    } catch (failed) {
      setWrong(whyNot(failed));
    }
  }

  return (
    <Panel title={isFirst ? 'Add the owner' : 'Add somebody'} framed>
      <form
        className={style.row}
        onSubmit={(event) => {
          event.preventDefault();
          void add();
        }}
      >
        <TextField
          id="person-name"
          label="Name"
          autoComplete="off"
          value={name}
          error={wrong}
          onChange={({ target }) => setName(target.value)}
        />
        <Field id="person-role" label="Is">
          <select
            id="person-role"
            disabled={isFirst}
            value={role}
            onChange={({ target }) => setRole(target.value as Role)}
          >
            {Role.options.map((one) => (
              <option key={one} value={one}>
                {ROLE_WORDS[one]}
              </option>
            ))}
          </select>
        </Field>
        <Button type="submit" look="main">
          Add
        </Button>
      </form>
    </Panel>
  );
}
