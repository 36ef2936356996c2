// people list | add NAME ROLE | code NAME | role NAME ROLE | leaves NAME | any: who signs in to the
// workshop of DATABASE_URL, by whoever runs the machine. Says what it did on standard output.
import { PersonName, Role, ROLE_WORDS } from '../../people/role';
import { openDatabase, type Database } from '../db/client';
import type { Outcome } from '../outcome';
import { addPerson, anybody, changeRole, leave, listPeople, personByName, recover } from './people';

const BY = 'this machine';
class Refused extends Error {}

function valueOf<T>(done: Outcome<T>): T {
  if (!done.ok) throw new Refused(done.detail);
  return done.value;
}

async function idOf(db: Database, name: string): Promise<string> {
  const id = await personByName(db, name);
  if (id === undefined)
    throw new Refused(`nobody called ${name} is here; npm run people says who is`);
  return id;
}

function roleOf(text: string | undefined): Role {
  const role = Role.safeParse(text ?? 'repairer');
  if (!role.success) throw new Refused(`expected one of ${Role.options.join(', ')}`);
  return role.data;
}

const codeWords = (name: string, code: string): string =>
  `${name} signs in with this code, and chooses a password then:\n\n  ${code}\n\nIt is shown nowhere again.`;

async function did(
  db: Database,
  [verb = 'list', name = '', more]: readonly string[],
): Promise<string> {
  switch (verb) {
    case 'any':
      return (await anybody(db)) ? 'yes' : 'no';
    case 'list': {
      const people = await listPeople(db);
      if (people.length === 0)
        return 'Nobody signs in here: npm run people add NAME owner begins it.';
      return people
        .map((one) => `${one.name}, ${ROLE_WORDS[one.role]}${one.hasCode ? ', with a code' : ''}`)
        .join('\n');
    }
    case 'add': {
      const read = PersonName.safeParse(name);
      if (!read.success) throw new Refused(`a name: ${read.error.issues[0]?.message}`);
      const { code } = valueOf(await addPerson(db, { name: read.data, role: roleOf(more) }, BY));
      return codeWords(read.data, code);
    }
    case 'code':
      return codeWords(name, valueOf(await recover(db, await idOf(db, name), BY)).code);
    case 'role':
      valueOf(await changeRole(db, await idOf(db, name), roleOf(more), BY));
      return `${name} is ${ROLE_WORDS[roleOf(more)]}.`;
    case 'leaves':
      valueOf(await leave(db, await idOf(db, name), BY));
      return `${name} left, and is signed out everywhere.`;
    default:
      throw new Refused('expected list, add NAME ROLE, code NAME, role NAME ROLE or leaves NAME');
  }
}

const url = process.env.DATABASE_URL;
if (!url) throw new Error('DATABASE_URL is not set');
const { db, pool } = openDatabase(url);
try {
  process.stdout.write(`${await did(db, process.argv.slice(2))}\n`);
} catch (error) {
  if (!(error instanceof Refused)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
} finally {
  await pool.end();
}
