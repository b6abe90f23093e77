// Holds package-lock.json against what this repository promises: every installed package runs on every Node that
// `engines` names, and what the workspaces declare as types or tools doesn't reach a production install.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import semver from 'semver';
import { root } from './set-up.mjs';

const read = (path) => JSON.parse(readFileSync(join(root, path), 'utf8'));
const promised = read('package.json').engines.node;
const lock = Object.entries(read('package-lock.json').packages);
const faults = [];
for (const [path, { version, engines, optional = false }] of lock) {
  const wanted = engines?.node;
  // what is optional is left out where it doesn't run, and done without
  if (wanted && !optional && path !== '' && !semver.subset(promised, wanted))
    faults.push(`${path.replace('node_modules/', '')} ${version} runs on Node ${wanted}, engines promise ${promised}`);
}
for (const [path, { dependencies = {} }] of lock.filter(([path]) => path !== '' && !path.includes('node_modules'))) {
  for (const name of Object.keys(dependencies))
    if (name.startsWith('@types/')) faults.push(`${path}/package.json: ${name} belongs to devDependencies`);
}
if (!readFileSync(join(root, '.npmrc'), 'utf8').includes('ignore-scripts=true'))
  faults.push('.npmrc: ignore-scripts=true is missing; without it packages may download at install');
for (const fault of faults) console.error(`dependencies: ${fault}`);
if (faults.length > 0) process.exit(1);
console.log(`dependencies: ${lock.length} packages, all run on Node ${promised}`);
