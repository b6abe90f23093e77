import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { beforeAll, expect, it } from 'vitest';
import { SolidItems } from '@gull-pane/core/solid/solid-items';
import type { SolidObject, SolidPart } from '@gull-pane/core/solid/solid-model';
import { modelFormatOf, type ExactFormat } from '../model/model-head.ts';
import { ReadError } from '../read-error.ts';
import { readStep, type StepContent } from './read-step.ts';

const require = createRequire(import.meta.url);
const folder = join(dirname(require.resolve('occt-import-js/package.json')), 'test', 'testfiles');
type Read = (bytes: Uint8Array, options: object | null) => StepContent;
let parse: Record<ExactFormat, Read>;
beforeAll(async () => {
  // the package has a CommonJS build and no types
  const start = require('occt-import-js') as () => Promise<Record<`Read${'Step' | 'Iges' | 'Brep'}File`, Read>>;
  const { ReadStepFile, ReadIgesFile, ReadBrepFile } = await start();
  parse = { step: ReadStepFile, iges: ReadIgesFile, brep: ReadBrepFile };
});

function read(bytes: Uint8Array, maxObjects = 100_000, format: ExactFormat = 'step') {
  const objects: SolidObject[] = [];
  const parts: SolidPart[] = [];
  const sink = {
    object: (object: SolidObject) => objects.push(object) - 1,
    part: (part: SolidPart) => void parts.push(part),
  };
  return {
    objects,
    parts,
    result: readStep(bytes, sink, { format, maxObjects, parse: (own) => parse[format](own, null) }),
  };
}
const fileOf = (...path: string[]): Uint8Array => new Uint8Array(readFileSync(join(folder, ...path)));

/** Sides of the box about all parts, millimetres. */
function sizeOf(parts: readonly SolidPart[]): number[] {
  return [0, 1, 2].map((axis) => {
    const values = parts.flatMap(({ positions, triangles }) =>
      Array.from(triangles, (corner) => positions[3 * corner + axis]!),
    );
    return Math.max(...values) - Math.min(...values);
  });
}

it('a cube of a metre is one, whether its file counts in millimetres, metres or inches', () => {
  for (const unit of ['mm', 'm', 'in'])
    for (const side of sizeOf(read(fileOf('cube-units', `cube-${unit}.step`)).parts)) expect(side).toBeCloseTo(1000, 6);
});

it('the edges of a cube are the twelve borders of its faces', () => {
  const { parts } = read(fileOf('cube-units', 'cube-mm.step'));
  const items = new SolidItems();
  for (const part of parts) expect(items.add(part)).toBe(12);
  expect(items.piece(0).edgePositions.length / 6).toBe(12);
});

it('parts that stand several times share their shape, and are drawn as if each had its own', () => {
  const { parts } = read(fileOf('cax-if', 'as1-tu-203.stp'));
  const keys = new Set(parts.map(({ shape }) => shape!.key));
  // a plate, two angles, their bolts and nuts, and a rod
  expect(parts.length).toBeGreaterThan(keys.size);
  const [shared, own] = [new SolidItems(), new SolidItems()];
  for (const part of parts) {
    shared.add(part);
    const { shape: _, ...alone } = part;
    own.add(alone);
  }
  expect(shared.length).toBe(own.length);
  for (let item = 0; item < own.length; item++) {
    const [a, b] = [shared.piece(item), own.piece(item)];
    expect(a.positions.length).toBe(b.positions.length);
    expect(a.triangles.length).toBe(b.triangles.length);
    expect(a.edgePositions.length).toBe(b.edgePositions.length);
    expect([...shared.boxes.view().subarray(6 * item, 6 * item + 6)]).toEqual([
      ...own.boxes.view().subarray(6 * item, 6 * item + 6),
    ]);
  }
});

it('an assembly comes in with its parts by name and its branches as layers', () => {
  const { objects, result } = read(fileOf('cax-if', 'as1-tu-203.stp'));
  expect(objects).toHaveLength(18);
  expect(new Set(objects.map(({ name }) => name))).toEqual(new Set(['nut', 'rod', 'bolt', 'l-bracket', 'plate']));
  const assemblies = ['l-bracket-assembly', 'l-bracket-assembly', 'plate', 'rod-assembly'];
  expect(result.layers.map(({ name }) => name).sort()).toEqual(assemblies);
  expect(result.frame).toContain('millimetres');
});

it('IGES and BREP are recognised by their first bytes and read like STEP', () => {
  const cube = fileOf('cube-10x10mm', 'Cube 10x10.igs');
  expect(modelFormatOf(cube, cube.length)).toBe('iges');
  for (const side of sizeOf(read(cube, 1000, 'iges').parts)) expect(side).toBeCloseTo(10, 6);
  const assembly = fileOf('cax-if-brep', 'as1_pe_203.brep');
  expect(modelFormatOf(assembly.subarray(0, 1 << 16), assembly.length)).toBe('brep');
  const { parts, result } = read(assembly, 100_000, 'brep');
  // the same assembly as STEP, in inches there and in the numbers of inches here
  const [brep, step] = [sizeOf(parts), sizeOf(read(fileOf('cax-if', 'as1_pe_203.stp')).parts)];
  const ratio = step[0]! / brep[0]!;
  brep.forEach((side, axis) => expect(side * ratio).toBeCloseTo(step[axis]!, 2));
  expect(result.frame).toContain('BREP tells neither its unit');
  expect(() => read(new TextEncoder().encode('CASCADE Topology V1\nno more'), 100, 'brep')).toThrow(/The BREP file/);
});

it('a damaged one is refused; limits are named', () => {
  expect(() => read(new TextEncoder().encode('ISO-10303-21;\nHEADER;\n'))).toThrow(ReadError);
  expect(() => read(fileOf('cax-if', 'as1-tu-203.stp'), 3)).toThrow(/more than 12 triangles/);
});
