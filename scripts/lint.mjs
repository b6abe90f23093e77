// npm run lint: formatting, lint rules with types, import boundaries, dependencies. Side by side, each with its time.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { root } from './set-up.mjs';

/** What is checked, and by what. */
const checks = [
  ['formatting', ['npx', 'oxfmt', '--check', '.']],
  ['lint rules and types', ['npx', 'oxlint', '--type-check']],
  ['import boundaries', [process.execPath, 'scripts/check-boundaries.mjs']],
  ['declared and unused imports', ['npx', 'knip', '--no-progress']],
  ['docstrings', [process.execPath, 'scripts/check-docstrings.mjs']],
  ['dependencies', [process.execPath, 'scripts/check-dependencies.mjs']],
  ['third-party licences', [process.execPath, 'scripts/notice.mjs', '--check']],
];

const results = await Promise.all(
  checks.map(async ([name, [command, ...args]]) => {
    const beganMs = performance.now();
    const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
    let output = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (output += String(chunk)));
    const [code] = await once(child, 'close');
    const seconds = ((performance.now() - beganMs) / 1000).toFixed(1);
    console.log(`${code === 0 ? 'holds' : 'FAILS'}  ${name}, ${seconds} s`);
    if (code !== 0) console.error(output.trim());
    return code === 0;
  }),
);
process.exit(results.every(Boolean) ? 0 : 1);
