import { ReadError } from '../read-error.ts';
import type { Warnings } from '../warnings.ts';

/** All entities of a file together may not become longer than this, characters. */
const MAX_EXPANDED = 100_000;
const DECLARATION = /<!ENTITY\s+(%\s+)?([^\s"'%]+)\s+(?:(SYSTEM|PUBLIC)\b[^>]*|"([^"]*)"|'([^']*)')\s*>/g;
const REFERENCE = /&([^;&\s#]+);/g;

/**
 * The entities that a document type declaration defines, with those they refer to put in (XML 1.0, 4.4). What stands in
 * other files or elsewhere is never fetched.
 * @throws ReadError limit-exceeded if entities grow one another beyond all measure, or go round in circles
 */
export function declaredEntities(
  doctype: string,
  warnings: Warnings | undefined,
  line: number,
): Record<string, string> {
  const raw = new Map<string, string>();
  for (const [, isParameter, name, elsewhere, double, single] of doctype.matchAll(DECLARATION)) {
    if (isParameter !== undefined || raw.has(name!)) continue; // the first declaration counts
    if (elsewhere !== undefined) {
      warnings?.add('not-supported', 'an entity that stands outside the file is not fetched', line);
      raw.set(name!, '');
    } else raw.set(name!, double ?? single ?? '');
  }
  let total = 0;
  const open = new Set<string>();
  const done = new Map<string, string>();
  const expand = (name: string): string => {
    const known = done.get(name);
    if (known !== undefined) return known;
    const refuse = (why: string): ReadError =>
      new ReadError('limit-exceeded', `The entity “${name.slice(0, 40)}” ${why}.`, { line, column: 1 });
    if (open.has(name)) throw refuse('refers to itself');
    open.add(name);
    const value = raw
      .get(name)!
      .replace(REFERENCE, (reference, inner: string) => (raw.has(inner) ? expand(inner) : reference));
    open.delete(name);
    total += value.length;
    if (total > MAX_EXPANDED) throw refuse(`grows the text beyond ${MAX_EXPANDED} characters`);
    done.set(name, value);
    return value;
  };
  return Object.fromEntries([...raw.keys()].map((name) => [name, expand(name)]));
}
