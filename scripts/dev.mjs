// npm run dev: both sides from source; the page reloads what changed, the server starts anew.
import { spawn } from 'node:child_process';
import { checkNode, install, root } from './set-up.mjs';

checkNode();
install();
const apiPort = process.env.GULL_PANE_API_PORT ?? '4181';
const env = { ...process.env, GULL_PANE_API_PORT: apiPort, TSX_TSCONFIG_PATH: 'tsconfig.base.json' };
const children = [
  spawn('npx', ['tsx', 'watch', '--clear-screen=false', 'packages/server/src/main.ts'], {
    cwd: root,
    stdio: 'inherit',
    env: { ...env, PORT: apiPort },
  }),
  spawn('npx', ['vite', 'packages/web', '--port', process.env.PORT ?? '4180'], { cwd: root, stdio: 'inherit', env }),
];
const stop = () => children.forEach((child) => child.kill('SIGTERM'));
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
for (const child of children) child.on('exit', stop);
