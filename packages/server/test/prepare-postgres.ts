/** A PostgreSQL server of the tests' own, on a socket in a folder of its own. */
import { chownSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { execFileSync, spawn } from 'node:child_process';
import { once } from 'node:events';
import { findPostgres } from '../../../scripts/set-up.mjs';

const PORT = '5432';

/** @public named in vitest.config.ts @returns what ends it */
export default async function prepare(): Promise<() => Promise<void>> {
  const found = findPostgres();
  if (!found) throw new Error('PostgreSQL isn’t installed: its tests are run by `npm test` where it is.');
  const { programs, owner } = found;
  const folder = mkdtempSync(join(tmpdir(), 'gull-pane-postgres-'));
  if (owner) chownSync(folder, owner.uid, owner.gid);
  const as = { cwd: folder, ...(owner ?? {}) };
  const data = join(folder, 'data');
  const begin = ['-D', data, '-U', 'postgres', '--auth=trust', '--no-sync', '--encoding=UTF8', '--locale=C.UTF-8'];
  execFileSync(join(programs, 'initdb'), begin, { ...as, stdio: 'ignore' });
  const settings = [
    'fsync=off',
    'synchronous_commit=off',
    'full_page_writes=off',
    'listen_addresses=',
    'max_connections=200',
  ];
  const options = ['-D', data, '-k', folder, '-p', PORT, ...settings.flatMap((setting) => ['-c', setting])];
  const server = spawn(join(programs, 'postgres'), options, { ...as, stdio: ['ignore', 'ignore', 'pipe'] });
  let said = '';
  await new Promise<void>((resolve, reject) => {
    server.stderr.on('data', (chunk) => {
      said += String(chunk);
      if (said.includes('ready to accept connections')) resolve();
    });
    server.once('exit', () => reject(new Error(`PostgreSQL doesn’t start:\n${said}`)));
  });
  process.env.GULL_PANE_TEST_POSTGRES = `postgresql://postgres@localhost/postgres?host=${encodeURIComponent(folder)}&port=${PORT}`;
  return async () => {
    const ended = once(server, 'exit');
    server.kill('SIGINT'); // without waiting for those who are still connected
    await ended;
    rmSync(folder, { recursive: true, force: true });
  };
}
