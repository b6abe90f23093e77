// npm run fuzz -- [minutes] [name of a file]: tries the properties with random seeds for so long, 10 minutes if not
// told. Prints what a failing one is to get as an example, so that `npm test` tries it from then on.
import { spawnSync } from 'node:child_process';
import { randomInt } from 'node:crypto';
import { checkNode, giveUp, install, root } from './set-up.mjs';

checkNode();
install();
const [first = '10', ...rest] = process.argv.slice(2);
const minutes = Number(first);
if (!(minutes > 0)) giveUp(`usage: npm run fuzz -- [minutes] [name of a file]; “${first}” is no number of minutes.`);
const endMs = Date.now() + minutes * 60_000;
let [rounds, failed] = [0, 0];
while (Date.now() < endMs) {
  const seed = randomInt(2 ** 31);
  const { status, stdout } = spawnSync('npx', ['vitest', 'run', '--project', 'unit', '--reporter=json', ...rest], {
    ...{ cwd: root, encoding: 'utf8', maxBuffer: 1 << 28, timeout: Math.max(endMs - Date.now(), 1000) },
    env: { ...process.env, FUZZ_SEED: String(seed) },
  });
  if (status === null) break; // the time is up
  rounds++;
  const failures = JSON.parse(stdout.slice(stdout.indexOf('{'))).testResults.flatMap(({ name, assertionResults }) =>
    assertionResults.filter((result) => result.status === 'failed').map((result) => ({ file: name, ...result })),
  );
  failed += failures.length;
  console.log(`seed ${seed}: ${failures.length === 0 ? 'all hold' : `${failures.length} failed`}`);
  for (const { file, fullName, failureMessages } of failures) {
    const text = failureMessages.join('\n');
    const example = /Counterexample: (\[.*\])/.exec(text)?.[1];
    console.log(`\n${file}\n  ${fullName}\n  again: FUZZ_SEED=${seed} npx vitest run --project unit ${file}`);
    console.log(example ? `  add to fc.assert: { examples: [${example}] }\n` : `${text}\n`);
  }
}
console.log(`${rounds} rounds of all properties, ${failed} failed`);
process.exit(failed > 0 ? 1 : 0);
