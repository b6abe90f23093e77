// npm test: everything that must hold, in one go; ends with the slowest tests and the counts.
// npm test -- --changed [commit]: what the changes since a commit (the last one if not told) can have broken.
import { spawn, spawnSync } from 'node:child_process';
import { once } from 'node:events';
import { appendFileSync, existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { keptFailures } from './failures.mjs';
import { build, checkNode, findChromium, findPdfReader, giveUp, install, needPostgres, root } from './set-up.mjs';

const SLOWEST_SHOWN = 5;

const [option, since = 'HEAD'] = process.argv.slice(2);
if (option !== undefined && option !== '--changed') giveUp(`usage: npm test [-- --changed [commit]]; got “${option}”.`);
const onlyChanged = option === '--changed';

checkNode();
install();
findPdfReader();
const hasPostgres = needPostgres() !== null;
const reports = join(root, '.cache', 'reports');
rmSync(reports, { recursive: true, force: true });
mkdirSync(reports, { recursive: true });
const failuresFile = join(reports, 'failures.txt');
const env = { ...process.env, CHROMIUM_PATH: findChromium(), GULL_PANE_FAILURES: failuresFile };

const failedSteps = [];
const beganMs = performance.now();
const secondsSince = (ms) => Math.round((performance.now() - ms) / 1000);

/** Runs one step. @param isQuiet what it prints is shown when it has ended: another step runs beside it */
async function step(name, command, args, isQuiet = false) {
  const stepBeganMs = performance.now();
  if (!isQuiet) console.log(`\n— ${name}`);
  const child = spawn(command, args, { cwd: root, env, stdio: isQuiet ? ['ignore', 'pipe', 'pipe'] : 'inherit' });
  let output = '';
  for (const stream of [child.stdout, child.stderr]) stream?.on('data', (chunk) => (output += String(chunk)));
  const [code] = await once(child, 'close');
  if (isQuiet) console.log(`\n— ${name}\n${output.trim()}`);
  console.log(`  ${name}: ${code === 0 ? 'done' : 'FAILED'} after ${secondsSince(stepBeganMs)} s`);
  if (code === 0) return;
  failedSteps.push(name);
  if (isQuiet) appendFileSync(failuresFile, `\n  ${name}\n${output.trim().slice(-5000)}\n`);
}

const vitest = (project) => [
  'vitest',
  'run',
  '--project',
  project,
  '--passWithNoTests',
  '--reporter=./scripts/progress-vitest.mjs',
  '--reporter=json',
  `--outputFile.json=${join(reports, `${project}.json`)}`,
  ...(onlyChanged ? ['--changed', since] : []),
];

await Promise.all([
  step('lint and types', process.execPath, ['scripts/lint.mjs'], true),
  step('unit tests', 'npx', vitest('unit')),
]);
build();
await step('API tests', 'npx', vitest('api'));
if (hasPostgres) await step('API tests on PostgreSQL', 'npx', vitest('api-postgres'));
if (onlyChanged) {
  await step('browser tests that changed', 'npx', [
    'playwright',
    'test',
    `--only-changed=${since}`,
    '--pass-with-no-tests',
  ]);
  if (changedApp().length > 0)
    await step('browser tests of every day', 'npx', ['playwright', 'test', '--grep', '@daily']);
} else await step('browser tests', 'npx', ['playwright', 'test']);

/** Sources of the running product that have changed: the runner of browser tests knows the import graph of tests only. */
function changedApp() {
  const { stdout } = spawnSync('git', ['diff', '--name-only', since, '--', 'packages'], {
    cwd: root,
    encoding: 'utf8',
  });
  return stdout.split('\n').filter((file) => file.includes('/src/') && !file.includes('.test.'));
}

const readReport = (name) => {
  const file = join(reports, `${name}.json`);
  return existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null;
};
const tests = ['unit', 'api', 'api-postgres'].flatMap((name) =>
  (readReport(name)?.testResults ?? []).flatMap(({ assertionResults }) =>
    assertionResults.map(({ fullName, status, duration }) => ({ name: fullName, status, ms: duration ?? 0 })),
  ),
);
const specsOf = ({ specs = [], suites = [] }) => [...specs, ...suites.flatMap(specsOf)];
for (const { title, ok, tests: runs } of specsOf(readReport('browser') ?? {}))
  tests.push({
    name: title,
    status: runs.some(({ status }) => status === 'skipped') ? 'skipped' : ok ? 'passed' : 'failed',
    ms: runs.flatMap(({ results }) => results).reduce((sum, { duration }) => sum + duration, 0),
  });
const count = (status) => tests.filter((test) => test.status === status).length;

console.log(`\nThe slowest ${SLOWEST_SHOWN} tests:`);
for (const { name, ms } of tests.sort((a, b) => b.ms - a.ms).slice(0, SLOWEST_SHOWN))
  console.log(`  ${(ms / 1000).toFixed(1).padStart(6)} s  ${name}`);
const failures = keptFailures(failuresFile);
if (failures) console.log(`\nWhat failed, also what passed when tried again:\n${failures}`);
console.log(
  failedSteps.length > 0
    ? `\nNot everything holds: ${failedSteps.join(', ')}; what failed is listed above.`
    : `\nEverything holds: lint, types, unit, API and browser tests, in ${secondsSince(beganMs)} s.`,
);
const failed = Math.max(count('failed'), failedSteps.length > 0 ? 1 : 0);
console.log(`${count('passed')} passed, ${failed} failed`);
process.exit(failed > 0 ? 1 : 0);
