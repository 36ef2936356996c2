import { formatDistanceToNowStrict } from 'date-fns/formatDistanceToNowStrict';
import { useState } from 'react';
import { Band } from '../case/Band';
import { ask, whyNot } from '../store/answers';
import { store } from '../store/store';
import { useMe } from '../people/use-me';
import { Button } from '../ui/Button';
import { ColumnTable } from '../ui/ColumnTable';
import { Keys } from '../ui/Keys';
import { Notice } from '../ui/Notice';
import { Panel } from '../ui/Panel';
import { Place } from '../ui/Place';
import { Backups } from './backups';
import { OpenFiles } from './OpenFiles';
import { BACKUPS_KEY, useBackups } from './use-backups';

/** What keeps the workshop: its backups, how one comes back, and all of it as open files. */
export function WorkshopPage() {
  const known = useBackups();
  const me = useMe();
  const [making, setMaking] = useState(false);
  const [refusal, setRefusal] = useState<string>();
  const { queries } = store();

  async function backUp(): Promise<void> {
    setMaking(true);
    setRefusal(undefined);
    try {
      queries.setQueryData(BACKUPS_KEY, await ask('/api/backups', Backups, { method: 'POST' }));
    } catch (error) {
      setRefusal(whyNot(error));
    } finally {
      setMaking(false);
    }
  }

  return (
    <>
      <Band here="workshop" />
      <Place>
        <h1>The workshop itself</h1>
        <p>
          One file holds everything: cases, boards,{' '}
          {known?.picturesElsewhere ? 'small pictures' : 'pictures'}, stock, patterns. One is made a
          day while people work; those of seven days and of five weeks are kept. Copy them to
          another machine: a backup beside what it backs up burns with it.
        </p>
        {known?.picturesElsewhere && (
          <Notice>
            Pictures in full size lie in a store of their own (<code>HANZAI_PICTURES</code>), and in
            no backup: copy that one, too.
          </Notice>
        )}
        {refusal && (
          <Notice look="attention" title="No backup was made:" live>
            {refusal}
          </Notice>
        )}
        {known && !known.isScheduled && (
          <Notice look="attention">
            This application was not begun by <code>npm start</code>: nobody makes backups by
            itself. <code>npm run backup</code> makes one.
          </Notice>
        )}
        {known?.isOld && (
          <Notice look="attention" title="Old:">
            {known.backups[0]
              ? 'the newest backup is of more than three days ago.'
              : 'there is no backup yet.'}
          </Notice>
        )}
        <p>
          <Button
            look="main"
            disabled={making || known?.isScheduled === false}
            onClick={() => void backUp()}
          >
            {making ? 'Backing up …' : 'Back up now'}
          </Button>
        </p>
        <Panel title="Backups" aside={known ? String(known.backups.length) : ''}>
          {!known ? (
            <p role="status">Being looked up …</p>
          ) : known.backups.length === 0 ? (
            <p>None yet. The first is made a minute after the start.</p>
          ) : (
            <ColumnTable
              rows={known.backups}
              keyOf={({ name }) => name}
              columns={[
                { name: 'File', cell: ({ name }) => name, mono: true },
                {
                  name: 'Made',
                  cell: ({ madeAt }) => `${formatDistanceToNowStrict(new Date(madeAt))} ago`,
                },
                { name: 'Size', cell: ({ bytes }) => `${(bytes / 1e6).toFixed(1)} MB`, mono: true },
              ]}
            />
          )}
        </Panel>
        <Panel title="How one comes back">
          <ol>
            <li>
              On the machine that runs Hanzai: <code>npm run restore FILE</code>. People may stay
              where they are; what they send waits in their browsers for the moment.
            </li>
            <li>
              The file is checked to the last byte, a new database is filled, its rows are compared
              with what the backup says, and every case is played from its journal. Only then it
              takes the place of the present one.
            </li>
            <li>
              What was there before is kept as a database of its own, and the command says under
              which name.
            </li>
          </ol>
        </Panel>
        {(me === null || me?.role === 'owner') && <OpenFiles />}
        <Keys keys={[['?', 'these keys']]} />
      </Place>
    </>
  );
}
