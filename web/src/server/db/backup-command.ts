// backup FOLDER: a backup of the database of DATABASE_URL in that folder. restore FILE: brings one
// back. check FILE: whether it is whole. Each says what it did on standard output.
import { backUpInto } from './backup';
import { checkBackup } from './backup-file';
import { Unfit } from './prepare';
import { restore } from './restore';

const [what, place] = process.argv.slice(2);
const url = process.env.DATABASE_URL;

async function main(): Promise<string> {
  if (!place) throw new Unfit(`expected ${what} and a ${what === 'backup' ? 'folder' : 'file'}`);
  if (what === 'check') {
    const checked = await checkBackup(place);
    if (!checked.ok) throw new Unfit(`${place}: ${checked.why}.`);
    return `${place} is whole: made ${checked.head.madeAt}, ${checked.head.bytes} bytes.`;
  }
  if (!url) throw new Unfit('DATABASE_URL is not set');
  if (what === 'backup') return backUpInto(url, place);
  if (what !== 'restore') throw new Unfit('expected backup, restore or check');
  const { database, rows, before } = await restore(url, place, process.env.HANZAI_APPLICATION_URL);
  return `${database} is back: ${rows} rows, every journal played.${before ? ` What was there before is kept as the database ${before}.` : ''}`;
}

try {
  process.stdout.write(`${await main()}\n`);
} catch (error) {
  if (!(error instanceof Unfit)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 1;
}
