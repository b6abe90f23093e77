// Type-checks every package under its own settings (the core has no platform types), then tests and scripts.
import { execFileSync } from 'node:child_process';

const projects = ['core', 'importers', 'exchange', 'exporters', 'protocol', 'demo', 'server', 'web'].map(
  (name) => `packages/${name}`,
);
for (const project of [...projects, 'tsconfig.tests.json', 'tsconfig.json']) {
  execFileSync('npx', ['tsc', '-p', project], { stdio: 'inherit' });
}
console.log(`types: ${projects.length} packages, tests and scripts are sound`);
