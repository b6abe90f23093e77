import { XMLParser } from 'fast-xml-parser';
import { strFromU8, unzipSync } from 'fflate';
import { bcfStructures, isGuid, type ElementRule } from './bcf-structure.ts';

type Ordered = Readonly<Record<string, unknown>>;
const parser = new XMLParser({
  preserveOrder: true,
  ignoreAttributes: false,
  attributeNamePrefix: '',
  parseTagValue: false,
  trimValues: true,
});
const nameOf = (element: Ordered): string => Object.keys(element).find((key) => key !== ':@')!;

/** Holds a BCF archive against the structure that the standard demands. @returns everything that is wrong */
export function faultsOfBcf(bytes: Uint8Array, version: '2.1' | '3.0'): string[] {
  const faults: string[] = [];
  const archive = unzipSync(bytes);
  const { files } = bcfStructures[version];
  const folders = new Set(Object.keys(archive).flatMap((name) => (name.includes('/') ? [name.split('/')[0]!] : [])));
  for (const folder of folders) if (!isGuid(folder)) faults.push(`${folder} is no GUID`);
  const known = new Set<string>();
  for (const [pattern, { root, rule, isNeeded }] of Object.entries(files)) {
    const names = pattern.startsWith('*/') ? [...folders].map((folder) => folder + pattern.slice(1)) : [pattern];
    for (const name of names) {
      known.add(name);
      const content = archive[name];
      if (!content) {
        if (isNeeded) faults.push(`${name} is missing`);
        continue;
      }
      const text = strFromU8(content);
      if (!text.startsWith('<?xml version="1.0" encoding="UTF-8"?>')) faults.push(`${name} has no XML declaration`);
      const elements = (parser.parse(text) as Ordered[]).filter((element) => nameOf(element) !== '?xml');
      if (elements.length !== 1 || nameOf(elements[0]!) !== root) faults.push(`${name}: its root isn’t ${root}`);
      else check(elements[0]!, rule, `${name} ${root}`, faults);
      const own = elements[0]?.[':@'] as Readonly<Record<string, string>> | undefined;
      if (name === 'bcf.version' && own?.VersionId !== version) faults.push(`bcf.version tells ${own?.VersionId}`);
    }
  }
  for (const name of Object.keys(archive))
    if (!known.has(name) && !/^[^/]+\/snapshot\.png$/.test(name)) faults.push(`${name} has no place in the archive`);
  return faults;
}

function check(
  element: Ordered,
  { children = [], attributes = {}, text }: ElementRule,
  path: string,
  faults: string[],
): void {
  const own = (element[':@'] ?? {}) as Readonly<Record<string, string>>;
  for (const [name, value] of Object.entries(own)) {
    if (!(name in attributes)) faults.push(`${path} has an attribute ${name}`);
    if (name === 'Guid' && !isGuid(value)) faults.push(`${path}: ${value} is no GUID`);
    if (name === 'DefaultVisibility' && !/^(true|false)$/.test(value)) faults.push(`${path}: ${name} is ${value}`);
  }
  for (const [name, need] of Object.entries(attributes))
    if (need === 'required' && !(name in own)) faults.push(`${path} lacks ${name}`);
  const content = element[nameOf(element)] as readonly Ordered[];
  const inner = content.filter((child) => nameOf(child) !== '#text');
  if (text) {
    const told = content.map((child) => (typeof child['#text'] === 'string' ? child['#text'] : '')).join('');
    if (!text.test(told)) faults.push(`${path} is “${told}”`);
  }
  let at = 0;
  for (const child of inner) {
    const found = children.findIndex(({ name }, k) => k >= at && name === nameOf(child));
    if (found < 0) {
      faults.push(`${path}: ${nameOf(child)} stands where it must not`);
      continue;
    }
    at = found;
    check(child, children[found]!.rule, `${path}/${nameOf(child)}`, faults);
  }
  for (const { name, least, most } of children) {
    const count = inner.filter((child) => nameOf(child) === name).length;
    if (count < least) faults.push(`${path} lacks ${name}`);
    if (count > most) faults.push(`${path} has ${count} ${name}`);
  }
}
