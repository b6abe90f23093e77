// npm run bench: installs and builds what is missing, then measures.
import { spawnSync } from 'node:child_process';
import { build, checkNode, findChromium, install, root } from './set-up.mjs';

checkNode();
install();
const CHROMIUM_PATH = findChromium();
build();
const args = ['tsx', '--tsconfig', 'tsconfig.base.json', 'bench/run.ts', ...process.argv.slice(2)];
const { status } = spawnSync('npx', args, { cwd: root, stdio: 'inherit', env: { ...process.env, CHROMIUM_PATH } });
process.exit(status ?? 1);
