/** Part of the build: makes the empty database that new data folders begin with. Its one argument is where it goes. */
import { mkdtemp, rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { configFromEnvironment } from './config.ts';
import { startServer } from './server.ts';

const target = process.argv[2]!;
await rm(target, { recursive: true, force: true });
const data = await mkdtemp(join(dirname(target), 'empty-database-making-'));
try {
  const server = await startServer(configFromEnvironment({ PORT: '0', GULL_PANE_DATA: data }));
  await server.stop();
  await rename(join(data, 'database'), target);
} finally {
  await rm(data, { recursive: true, force: true });
}
