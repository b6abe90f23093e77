// npm run fuzz -- [minutes] [part of a file's name]: tries the properties with random seeds for so long, 10 minutes if
// not told. Files of properties take turns, so that even a short time tries many of them. Prints what a failing one is
// to get as an example, so that `npm test` tries it from then on.
import { spawnSync } from 'node:child_process';
import { randomInt } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { checkNode, giveUp, install, root } from './set-up.mjs';

/** Files that one run of the test runner tries: its start costs as much as several of them. */
const FILES_AT_ONCE = 4;

checkNode();
install();
const [first = '10', part = ''] = process.argv.slice(2);
const minutes = Number(first);
if (!(minutes > 0))
  giveUp(`usage: npm run fuzz -- [minutes] [part of a file’s name]; “${first}” is no number of minutes.`);
const files = filesOfProperties().filter((file) => file.includes(part));
if (files.length === 0) giveUp(`No file of properties has “${part}” in its name.`);
const endMs = Date.now() + minutes * 60_000;
let [next, tried, failed] = [randomInt(files.length), 0, 0];
console.log(`${files.length} files of properties, ${minutes} minutes`);
while (Date.now() < endMs) {
  const batch = Array.from({ length: Math.min(FILES_AT_ONCE, files.length) }, () => files[next++ % files.length]);
  const seed = randomInt(2 ** 31);
  const failures = tryOnce(batch, seed);
  if (!failures) break; // the time is up
  tried += batch.length;
  failed += failures.length;
  console.log(
    `seed ${seed}: ${failures.length === 0 ? 'all hold' : `${failures.length} failed`}: ${batch.map(short).join(', ')}`,
  );
  for (const failure of failures) report(failure, seed);
}
console.log(
  `${tried} files tried, ${Math.min(tried, files.length)} of ${files.length} at least once; ${failed} properties failed`,
);
process.exit(failed > 0 ? 1 : 0);

/** Test files in which properties stand. */
function filesOfProperties() {
  const { stdout } = spawnSync('git', ['ls-files', 'packages/*/src/**.test.ts'], { cwd: root, encoding: 'utf8' });
  return stdout
    .split('\n')
    .filter((file) => file !== '' && readFileSync(`${root}/${file}`, 'utf8').includes("from 'fast-check'"));
}

/** @returns what failed; null if the time was up before */
function tryOnce(batch, seed) {
  const { status, stdout } = spawnSync('npx', ['vitest', 'run', '--project', 'unit', '--reporter=json', ...batch], {
    cwd: root,
    encoding: 'utf8',
    maxBuffer: 1 << 28,
    timeout: Math.max(endMs - Date.now(), 1000),
    env: { ...process.env, FUZZ_SEED: String(seed) },
  });
  if (status === null) return null;
  return JSON.parse(stdout.slice(stdout.indexOf('{'))).testResults.flatMap(({ name, assertionResults }) =>
    assertionResults.filter((result) => result.status === 'failed').map((result) => ({ file: name, ...result })),
  );
}

function report({ file, fullName, failureMessages }, seed) {
  const text = failureMessages.join('\n');
  const example = /Counterexample: (\[.*\])/.exec(text)?.[1];
  console.log(`\n${file}\n  ${fullName}\n  again: FUZZ_SEED=${seed} npx vitest run --project unit ${file}`);
  console.log(example ? `  add to fc.assert: { examples: [${example}] }\n` : `${text}\n`);
}

function short(file) {
  return file.slice(file.lastIndexOf('/') + 1, -'.test.ts'.length);
}
