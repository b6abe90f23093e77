// npm run cluster -- [seconds]: people look and mark and files come in on two web servers, two workers, PostgreSQL and an object
// store, while all of them are killed in turn; 120 s if not told. Prints figures.
import { spawnSync } from 'node:child_process';
import { checkNode, giveUp, install, needPostgres, root } from './set-up.mjs';

checkNode();
install();
if (!needPostgres()) process.exit(1);
const [seconds = '120'] = process.argv.slice(2);
if (!(Number(seconds) > 0)) giveUp(`usage: npm run cluster -- [seconds]; “${seconds}” is no number of seconds.`);
const { status } = spawnSync(
  'npx',
  ['vitest', 'run', '--project', 'api-postgres', 'packages/server/test/cluster.test.ts'],
  { cwd: root, stdio: 'inherit', env: { ...process.env, GULL_PANE_CLUSTER_SECONDS: seconds } },
);
process.exit(status ?? 1);
