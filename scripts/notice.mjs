// npm run notice: writes NOTICE, the licences of all packages that ship with the product; with --check it only says
// whether NOTICE is up to date. A licence that hasn't been looked at is a fault.
import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { giveUp, root } from './set-up.mjs';

/** Licences that may ship: permissive ones, and weak copyleft of packages that are used unchanged. */
const known = new Set([
  'MIT',
  'ISC',
  'BSD-2-Clause',
  'BSD-3-Clause',
  'Apache-2.0',
  '0BSD',
  'OFL-1.1',
  'BlueOak-1.0.0',
  'Unlicense',
  'MIT-0',
  'CC0-1.0',
  'PostgreSQL',
  'Python-2.0',
  'MPL-2.0',
  'LGPL-2.1',
  'MIT OR Apache-2.0',
  '(MIT AND Zlib)',
  'Apache-2.0 AND MIT',
  '(MIT OR CC0-1.0)',
  'BSD-2-Clause OR (MIT OR Apache-2.0)',
  'SGI-B-2.0',
  '(MIT OR Apache-2.0)',
]);

/** Packages that name their licence in its file only. */
const readInFile = { 'png-js': 'MIT', 'combine-errors': 'MIT' };

const { packages } = JSON.parse(readFileSync(join(root, 'package-lock.json'), 'utf8'));
const shipped = Object.entries(packages).filter(
  ([path, { dev, devOptional, optional, link }]) =>
    path.includes('node_modules/') && !dev && !devOptional && !optional && !link,
);
const unknown = [];
const entries = shipped
  .map(([path]) => {
    const folder = join(root, path);
    const { name, version, license, licenses } = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8'));
    const licence =
      license?.type ?? license ?? licenses?.map(({ type }) => type).join(' OR ') ?? readInFile[name] ?? 'none named';
    if (!known.has(licence)) unknown.push(`${name} ${version}: ${licence}`);
    return `${name} ${version}\n  ${licence}${copyrightOf(folder)}`;
  })
  .sort();

/** The copyright line of a package's licence file, if it has one. */
function copyrightOf(folder) {
  const file = existsSync(folder) && readdirSync(folder).find((own) => /^licen[cs]e/i.test(own));
  const text = file ? readFileSync(join(folder, file), 'utf8') : '';
  const line = text.split('\n').find((own) => /^\W*(copyright\b|\(c\)|©).*\d{4}|^\W*copyright \(c\)/i.test(own));
  return line ? `; ${line.replace(/^[\s*#/]+/, '').trim()}` : '';
}

if (unknown.length > 0) giveUp(`notice: licences that nobody has looked at:\n  ${unknown.join('\n  ')}`);
const notice = `Gull Pane
Licensed under the MIT License, see LICENSE.

It ships with these packages, unchanged, under their own licences. The text of each lies in its folder below
node_modules. Written by \`npm run notice\`.

${[...new Set(entries)].join('\n')}
`;
const path = join(root, 'NOTICE');
if (process.argv.includes('--check')) {
  if (!existsSync(path) || readFileSync(path, 'utf8') !== notice)
    giveUp('notice: NOTICE isn’t up to date; run `npm run notice`.');
  console.log(`notice: ${entries.length} packages`);
} else writeFileSync(path, notice);
