// Checks that every exported function and class of the packages without interface code says what it is.
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import ts from 'typescript';

const folders = ['core', 'protocol', 'exchange', 'importers', 'exporters'].map((name) => `packages/${name}/src`);
const files = execFileSync('git', ['ls-files', '-co', '--exclude-standard', ...folders], { encoding: 'utf8' })
  .split('\n')
  .filter((file) => file.endsWith('.ts') && !/\.test\.ts$|\/testing\//.test(file));

/** Names and positions of what a statement exports without saying what it is. */
function silentOf(statement) {
  if (!statement.modifiers?.some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword)) return [];
  if (ts.getJSDocCommentsAndTags(statement).length > 0) return [];
  if (ts.isFunctionDeclaration(statement) || ts.isClassDeclaration(statement)) return [statement.name];
  if (!ts.isVariableStatement(statement)) return [];
  const { declarations } = statement.declarationList;
  return declarations
    .filter(({ initializer }) => initializer && ts.isArrowFunction(initializer))
    .map(({ name }) => name);
}

let silent = 0;
for (const file of files) {
  const source = ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true);
  for (const name of source.statements.flatMap(silentOf)) {
    silent++;
    const { line } = source.getLineAndCharacterOfPosition(name.getStart());
    console.error(`${file}:${line + 1} ${name.text} has no docstring`);
  }
}
if (files.length < 100) throw new Error(`docstrings: only ${files.length} files were seen`);
if (silent > 0) process.exit(1);
console.log(`docstrings: ${files.length} files, all say what they export`);
