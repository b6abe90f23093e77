// npm test: everything that must hold, in one go; ends with the runners' counts.
import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build, checkNode, findChromium, install, root } from './set-up.mjs';

checkNode();
install();
const chromium = findChromium();
const reports = join(root, '.cache', 'reports');
rmSync(reports, { recursive: true, force: true });
mkdirSync(reports, { recursive: true });

const failedSteps = [];
function step(name, command, args) {
  console.log(`\n— ${name}`);
  const { status } = spawnSync(command, args, {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, CHROMIUM_PATH: chromium },
  });
  if (status !== 0) {
    failedSteps.push(name);
    console.error(`${name}: failed`);
  }
}
/** Checks that use one core each go side by side, in rows; what each prints is shown when it has ended. */
async function sideBySide(...rows) {
  await Promise.all(
    rows.map(async (row) => {
      for (const [name, command, args] of row) {
        const child = spawn(command, args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
        let output = '';
        for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (output += String(chunk)));
        const [code] = await once(child, 'close');
        console.log(`\n— ${name}\n${output.trim()}`);
        if (code !== 0) {
          failedSteps.push(name);
          console.error(`${name}: failed`);
        }
      }
    }),
  );
}
const report = (name) => [
  '--reporter=default',
  '--reporter=json',
  `--outputFile.json=${join(reports, `${name}.json`)}`,
];

await sideBySide(
  [['lint', 'npm', ['run', '--silent', 'lint']]],
  [
    ['types', 'npm', ['run', '--silent', 'types']],
    ['unit tests', 'npx', ['vitest', 'run', '--project', 'unit', ...report('unit')]],
  ],
);
step('API tests', 'npx', ['vitest', 'run', '--project', 'api', ...report('api')]);
build();
step('browser tests', 'npx', ['playwright', 'test']);

let passed = 0;
let failed = 0;
for (const name of ['unit', 'api']) {
  const counts = readReport(name);
  passed += counts?.numPassedTests ?? 0;
  failed += counts?.numFailedTests ?? 1;
}
const browser = readReport('browser')?.stats;
passed += (browser?.expected ?? 0) + (browser?.flaky ?? 0);
failed += browser?.unexpected ?? 1;

function readReport(name) {
  const file = join(reports, `${name}.json`);
  return existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null;
}

console.log(
  failedSteps.length > 0
    ? `\nNot everything holds: ${failedSteps.join(', ')}; see above.`
    : '\nEverything holds: lint, types, unit, API and browser tests.',
);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failedSteps.length > 0 || failed > 0 ? 1 : 0);
