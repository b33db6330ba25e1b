import { existsSync, openSync, readSync, closeSync, renameSync, rmSync, statSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { openDatabase } from './database';
import { installedVersions, run } from './db/postgres';
import { StartFault } from './fault';

/**
 * `npm run backup FILE` and `npm run restore FILE`: all levels and assets of a data folder, or of DATABASE_URL, in one
 * file of PostgreSQL's own form. Both work while the server runs; a restore is done whole or not at all.
 */
const USAGE = 'usage: npm run backup FILE, or npm run restore FILE';

async function main([verb, given]: string[]): Promise<void> {
  if ((verb !== 'backup' && verb !== 'restore') || !given) throw new StartFault(USAGE);
  const file = resolve(process.env.INIT_CWD ?? '.', given);
  if (verb === 'backup' && !existsSync(dirname(file))) throw new StartFault(`there is no folder ${dirname(file)} to write the backup to.`);
  if (verb === 'restore') checkBackup(file);
  const [newest] = installedVersions();
  if (newest === undefined) throw new StartFault('pg_dump is not installed: run `apt-get install postgresql-client`.');
  const bin = (name: string) => join('/usr/lib/postgresql', String(newest), 'bin', name);
  const { url, cluster } = await openDatabase(() => {});
  try {
    const address = new URL(url);
    const env = { ...process.env, PGPASSWORD: decodeURIComponent(address.password), PGOPTIONS: '-c lock_timeout=60000' };
    address.password = '';
    if (verb === 'backup') {
      const part = `${file}.part`;
      const { code, text } = await run(
        bin('pg_dump'),
        ['-Fc', '-n', 'public', '-n', 'drizzle', '--exclude-table-data=public.jobs', '-f', part, '-d', address.href],
        { env },
      );
      if (code !== 0) {
        rmSync(part, { force: true });
        throw new StartFault(`the backup was not made: ${lastLine(text)}.`);
      }
      renameSync(part, file);
      console.log(`${file}: ${(statSync(file).size / (1 << 20)).toFixed(1)} MB`);
    } else {
      const { code, text } = await run(bin('pg_restore'), ['--clean', '--if-exists', '--no-owner', '--single-transaction', '-d', address.href, file], { env });
      if (code !== 0) throw new StartFault(`nothing was restored: ${lastLine(text)}.`);
      console.log(`restored from ${file}; load open levels again`);
    }
  } finally {
    await cluster?.stop();
  }
}

/** @throws StartFault where a file is no backup, before anything is touched */
function checkBackup(file: string): void {
  if (!existsSync(file) || !statSync(file).isFile()) throw new StartFault(`there is no file ${file} to restore from.`);
  const head = Buffer.alloc(5);
  const fd = openSync(file, 'r');
  readSync(fd, head, 0, 5, 0);
  closeSync(fd);
  if (head.toString('latin1') !== 'PGDMP')
    throw new StartFault(`${file} is no backup of Rammer: it was not made by \`npm run backup\`. A level package is opened on the page of levels.`);
}

const lastLine = (text: string): string =>
  text
    .trim()
    .split('\n')
    .filter((l) => /error/i.test(l))
    .at(-1)
    ?.replace(/\.$/, '') ?? 'no reason was given';

try {
  await main(process.argv.slice(2));
} catch (error) {
  console.error(`rammer: ${error instanceof StartFault ? error.message : (error as Error).message}`);
  process.exit(1);
}
