// Checks who imports whom (.dependency-cruiser.cjs). A run over nothing must not pass, so the modules seen are counted.
import { execFileSync } from 'node:child_process';

const files = execFileSync('git', ['ls-files', '-co', '--exclude-standard', 'packages/*/src/**'], { encoding: 'utf8' })
  .split('\n')
  .filter((file) => /\.tsx?$/.test(file) && !file.endsWith('.d.ts'));
let text;
try {
  text = execFileSync(
    'npx',
    ['depcruise', 'packages', '--output-type', 'json', '--include-only', '^packages/[^/]+/src'],
    {
      encoding: 'utf8',
      maxBuffer: 1 << 28,
      stdio: ['ignore', 'pipe', 'pipe'],
    },
  );
} catch (error) {
  text = error.stdout; // the exit code counts violations; they are in the report
}
const { summary, modules } = JSON.parse(text);
const seen = modules.filter((module) => files.includes(module.source)).length;
for (const { rule, from, to } of summary.violations) console.error(`boundary ${rule.name}: ${from} -> ${to}`);
if (seen < files.length * 0.95) {
  console.error(`boundaries: only ${seen} of ${files.length} modules were seen`);
  process.exit(1);
}
if (summary.violations.length > 0) process.exit(1);
console.log(`boundaries: ${seen} modules, no violation`);
