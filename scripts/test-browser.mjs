// npm run test:browser -- [what the runner takes, such as --grep “a valve”]: builds what has changed, then tests it.
import { spawnSync } from 'node:child_process';
import { build, checkNode, findChromium, install, root } from './set-up.mjs';

checkNode();
install();
const CHROMIUM_PATH = findChromium();
build();
const { status } = spawnSync('npx', ['playwright', 'test', ...process.argv.slice(2)], {
  cwd: root,
  stdio: 'inherit',
  env: { ...process.env, CHROMIUM_PATH },
});
process.exit(status ?? 1);
