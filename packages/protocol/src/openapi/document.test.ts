import { expect, it } from 'vitest';
import { openApiDocument } from './document.ts';

it('every operation has a name of its own that a client can call it by', () => {
  const { paths } = openApiDocument() as { paths: Record<string, Record<string, { operationId: string }>> };
  const names = Object.values(paths).flatMap((path) => Object.values(path).map(({ operationId }) => operationId));
  expect(names.length).toBeGreaterThan(60);
  expect(new Set(names).size).toBe(names.length);
  for (const name of names) expect(name).toMatch(/^(get|post|patch|put|delete)[A-Z]\w*$/);
  expect(names).toContain('getDrawingsByIdLayers');
  expect(names).toContain('patchUploadsByUpload');
});

it('it holds the schemas that it refers to, and no others', () => {
  const { paths, components } = openApiDocument() as {
    paths: object;
    components: { schemas: Readonly<Record<string, object>> };
  };
  const referred = (at: object): string[] =>
    [...JSON.stringify(at).matchAll(/#\/components\/schemas\/(\w+)/g)].map(([, name]) => name!);
  const all = new Set([...referred(paths), ...Object.values(components.schemas).flatMap(referred)]);
  expect(Object.keys(components.schemas).sort()).toEqual([...all].sort());
});
