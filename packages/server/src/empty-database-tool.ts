/** Part of the build: makes the empty database that new data folders begin with. Its one argument is where it goes. */
import { mkdtemp, rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { openDatabase } from './db/database.ts';

const target = process.argv[2]!;
await rm(target, { recursive: true, force: true });
const data = await mkdtemp(join(dirname(target), 'empty-database-making-'));
try {
  // no server has run on it: what each has to itself, such as its signing secret, isn't in it
  const database = await openDatabase(join(data, 'database'));
  await database.close();
  await rename(join(data, 'database'), target);
} finally {
  await rm(data, { recursive: true, force: true });
}
