import { useQuery } from '@tanstack/react-query';
import { format } from 'date-fns/format';
import { useState } from 'react';
import { z } from 'zod';
import { ask, whyNot, withBody } from '../store/answers';
import { store } from '../store/store';
import { Button } from '../ui/Button';
import { Notice } from '../ui/Notice';
import { Panel } from '../ui/Panel';
import { Password } from './Password';
import { Passkeys } from './Passkeys';
import style from './People.module.css';
import { Person, ROLE_WORDS } from './role';
import { leaveBrowser } from './sign-out';
import type { Me } from './use-me';

const Sessions = z.array(
  z.object({
    token: z.string(),
    createdAt: z.string(),
    ipAddress: z.string().nullish(),
  }),
);
const Changed = z.object({ changed: z.boolean() });
const SESSIONS = ['sessions'];

/** One's own password and passkeys, and where one is signed in. */
export function OwnAccount({
  me,
  passkeysAt,
}: {
  me: NonNullable<Me>;
  passkeysAt: string | undefined;
}) {
  const { queries } = store();
  const { data: sessions = [] } = useQuery(
    { queryKey: SESSIONS, queryFn: () => ask('/api/auth/list-sessions', Sessions) },
    queries,
  );
  const [refusal, setRefusal] = useState<string>();
  async function end(token: string): Promise<void> {
    try {
      await ask('/api/auth/revoke-session', z.unknown(), withBody('POST', { token }));
    } catch (error) {
      setRefusal(whyNot(error));
    }
    await queries.invalidateQueries({ queryKey: SESSIONS });
  }
  return (
    <>
      <Panel title={Person.shape.name.parse(me.name)} aside={ROLE_WORDS[me.role]} framed>
        {me.hasCode && (
          <Notice look="attention" title="A password of your own:">
            you came in with a code that somebody else has seen.
          </Notice>
        )}
        <OwnPassword hasCode={me.hasCode} />
        <p>
          <Button
            onClick={() => void leaveBrowser().catch((error: unknown) => setRefusal(whyNot(error)))}
          >
            Sign out
          </Button>
        </p>
        {refusal && <Notice look="attention">{refusal}</Notice>}
      </Panel>
      <Passkeys at={passkeysAt} />
      <Panel title="Where you are signed in" aside={String(sessions.length)}>
        <ul className={style.plain}>
          {sessions.map(({ token, createdAt, ipAddress }) => (
            <li key={token} className={style.row}>
              <span>
                since {format(new Date(createdAt), 'd MMM HH:mm')}
                {ipAddress && `, from ${ipAddress}`}
              </span>
              <Button look="quiet" onClick={() => void end(token)}>
                End it
              </Button>
            </li>
          ))}
        </ul>
      </Panel>
    </>
  );
}

function OwnPassword({ hasCode }: { hasCode: boolean }) {
  const [current, setCurrent] = useState('');
  const [password, setPassword] = useState('');
  const [said, setSaid] = useState<{ readonly words: string; readonly good: boolean }>();
  async function change(): Promise<void> {
    try {
      await ask('/api/people/me', Changed, withBody('POST', { current, password }));
      setSaid({ words: 'It holds from now on; everywhere else you are signed out.', good: true });
      setCurrent('');
      setPassword('');
      await store().queries.invalidateQueries();
    } catch (error) {
      setSaid({ words: whyNot(error), good: false });
    }
  }
  return (
    <form
      className={style.narrow}
      onSubmit={(event) => {
        event.preventDefault();
        void change();
      }}
    >
      <Password
        id="own-current"
        label={hasCode ? 'The code' : 'Present password'}
        value={current}
        onType={setCurrent}
      />
      <Password
        isNew
        id="own-new"
        label="New password"
        hint="ten letters at least"
        minLength={10}
        value={password}
        onType={setPassword}
      />
      <p>
        <Button type="submit">Keep it</Button>
      </p>
      {said && (
        <Notice look={said.good ? 'good' : 'attention'} live>
          {said.words}
        </Notice>
      )}
    </form>
  );
}
