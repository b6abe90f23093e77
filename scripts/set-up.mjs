// What a machine needs before Gull Pane can be started or tested. Nothing that is there already is done again.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = fileURLToPath(new URL('..', import.meta.url));
/** What `engines` in package.json says: the least minor version by major, and every later major. */
const NODE = { leastMinor: { 20: 20, 22: 13 }, allFrom: 24 };

/** Ends with one line for the person who started this. */
export function giveUp(line) {
  console.error(line);
  process.exit(1);
}

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major >= NODE.allFrom || minor >= (NODE.leastMinor[major] ?? Infinity)) return;
  giveUp(
    `Gull Pane needs Node 20.20 or newer of 20, 22.13 or newer of 22, or 24 and later; this is ${process.versions.node}.`,
  );
}

/** Runs a command quietly; what it printed is shown only if it fails. */
function quietly(what, command, args, env = process.env) {
  const { status, stdout, stderr, error } = spawnSync(command, args, { cwd: root, encoding: 'utf8', env });
  if (status === 0) return;
  console.error(`${stdout ?? ''}${stderr ?? ''}`.trim());
  giveUp(`${what} failed: ${command} ${args.join(' ')} (${error?.message ?? `exit code ${status}`}).`);
}

const APT_INSTALL = ['install', '-y', '--no-install-recommends'];
const stampOf = (name) => join(root, '.cache', name);
const readStamp = (name) => (existsSync(stampOf(name)) ? readFileSync(stampOf(name), 'utf8') : '');
function writeStamp(name, text) {
  mkdirSync(join(root, '.cache'), { recursive: true });
  writeFileSync(stampOf(name), text);
}

/** Installs the packages that the lock file names, if that hasn't been done for this very lock file. */
export function install() {
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  if (readStamp('installed') === lock && existsSync(join(root, 'node_modules'))) return;
  console.log('Installing packages, once …');
  quietly('Installing packages', 'npm', ['ci', '--no-audit', '--no-fund']);
  writeStamp('installed', lock);
}

const EMPTY_DATABASE = 'packages/server/empty-database';
/** Folders that no build reads. */
const NOT_SOURCE = ['dist', 'node_modules', 'empty-database'];

/** Makes the empty database that a new data folder begins with, if what it is made of has changed. */
function makeEmptyDatabase() {
  const hash = createHash('sha256').update(readStamp('installed'));
  hash.update(readFileSync(join(root, 'packages/server/src/empty-database-tool.ts')));
  const migrations = join(root, 'packages/server/drizzle');
  for (const name of readdirSync(migrations).sort())
    if (name.endsWith('.sql')) hash.update(readFileSync(join(migrations, name)));
  const state = hash.digest('hex');
  if (existsSync(join(root, EMPTY_DATABASE)) && readStamp('empty-database-made-of') === state) return;
  quietly('Preparing an empty database', process.execPath, [
    'packages/server/dist/empty-database-tool.js',
    EMPTY_DATABASE,
  ]);
  writeStamp('empty-database-made-of', state);
}

/** Builds front end and server if a source is newer than what was built. */
export function build() {
  const hash = createHash('sha256');
  const walk = (folder) => {
    for (const entry of readdirSync(join(root, folder), { withFileTypes: true }).sort((a, b) =>
      a.name < b.name ? -1 : 1,
    )) {
      const path = `${folder}/${entry.name}`;
      if (entry.isDirectory()) {
        if (!NOT_SOURCE.includes(entry.name)) walk(path);
      } else if (!/\.test\.tsx?$/.test(entry.name)) hash.update(`${path} ${statSync(join(root, path)).mtimeMs}\n`);
    }
  };
  walk('packages');
  hash.update(readStamp('installed'));
  const state = hash.digest('hex');
  const isBuilt = ['web/dist/index.html', 'server/dist/main.js', 'server/empty-database/PG_VERSION'].every((file) =>
    existsSync(join(root, 'packages', file)),
  );
  if (isBuilt && readStamp('built') === state) return;
  console.log('Building …');
  // also when it is the tests that need it: theirs would be a build for developing
  quietly('Building', 'npm', ['run', 'build'], { ...process.env, NODE_ENV: 'production' });
  makeEmptyDatabase();
  writeStamp('built', state);
}

const apt = (...args) => spawnSync('apt-get', args, { encoding: 'utf8' }).status === 0;
const mayInstall = () => process.getuid?.() === 0 && existsSync('/usr/bin/apt-get');

/** Another reader of PDF, which tests hold ours against; they say so where it is missing. */
export function findPdfReader() {
  const isThere = () => existsSync('/usr/bin/pdftocairo') || spawnSync('pdftocairo', ['-v']).status === 0;
  if (!isThere() && mayInstall()) {
    console.log('Installing poppler-utils from Debian’s packages, once …');
    // lists of packages may be old, or not there at all
    if (!apt(...APT_INSTALL, 'poppler-utils') && apt('update')) apt(...APT_INSTALL, 'poppler-utils');
  }
  if (!isThere()) console.log('Left out: printed sheets as another reader draws them (install “poppler-utils”).');
}

/** Where Debian puts the programs of a PostgreSQL server, a folder a version. */
const POSTGRES_VERSIONS = '/usr/lib/postgresql';

/**
 * The PostgreSQL server that is installed, and who may run it where this is root, which it refuses to run for.
 * @returns null if there is none
 */
export function findPostgres() {
  const versions = existsSync(POSTGRES_VERSIONS) ? readdirSync(POSTGRES_VERSIONS) : [];
  const folders = versions
    .sort((a, b) => Number(b) - Number(a))
    .map((version) => join(POSTGRES_VERSIONS, version, 'bin'));
  const programs = folders.find((folder) => existsSync(join(folder, 'initdb')));
  if (programs === undefined) return null;
  if (process.getuid?.() !== 0) return { programs, owner: null };
  const idOf = (kind) => Number(spawnSync('id', [kind, 'postgres'], { encoding: 'utf8' }).stdout);
  const owner = { uid: idOf('-u'), gid: idOf('-g') };
  return owner.uid > 0 ? { programs, owner } : null;
}

/** The same, installed from Debian's packages where this may. */
export function needPostgres() {
  if (!findPostgres() && mayInstall()) {
    console.log('Installing PostgreSQL from Debian’s packages, once …');
    if (!apt(...APT_INSTALL, 'postgresql') && apt('update')) apt(...APT_INSTALL, 'postgresql');
  }
  const found = findPostgres();
  if (!found) console.log('Left out: the API tests on a PostgreSQL server (install “postgresql”).');
  return found;
}

/** Where the browser for tests is; installed from Debian's packages where this may. The one without windows is quicker. */
export function findChromium() {
  const shell = 'chromium-headless-shell';
  const candidates = [process.env.CHROMIUM_PATH, `/usr/bin/${shell}`, '/usr/bin/chromium', '/usr/bin/chromium-browser'];
  const find = () => candidates.find((path) => path && existsSync(path));
  if (process.env.CHROMIUM_PATH === undefined && mayInstall() && !existsSync(`/usr/bin/${shell}`)) {
    console.log('Installing Chromium from Debian’s packages, once …');
    const installed = apt('update') && (apt(...APT_INSTALL, shell) || apt(...APT_INSTALL, 'chromium'));
    if (!installed && !find()) giveUp('Chromium couldn’t be installed: install it, or name its path in CHROMIUM_PATH.');
  }
  return (
    find() ??
    giveUp('The browser tests need Chromium: install Debian’s “chromium-headless-shell”, or name one in CHROMIUM_PATH.')
  );
}
