import { expect, it } from 'vitest';
import { DrawingDto, RenameDrawingDto } from './drawings.ts';
import { DtoError, readDto, readDtoList } from './dto.ts';
import { problemCatalogue, problemDetails, type ProblemCode } from './problems.ts';

const drawing = {
  id: '0b5f3f9e-6f0c-4c58-9d6c-2f6a3c1f0a11',
  name: 'Site',
  kind: 'flat',
  unit: 'mm',
  status: 'ready',
  revision: 1,
  sourceBytes: 9,
  counts: { objects: 1, segments: 4, triangles: 0, texts: 0, layers: 1 },
  extents: { min: { x: 0, y: 0, z: 0 }, max: { x: 1, y: 1, z: 0 } },
  sheets: [],
  warnings: [],
  createdAt: '2026-11-24T00:00:00.000Z',
  updatedAt: '2026-11-24T00:00:00.000Z',
  jobId: null,
  isCancelled: false,
  error: null,
};

it('takes what keeps to the protocol, nested parts included', () => {
  expect(readDto(DrawingDto, drawing).extents!.max.x).toBe(1);
  expect(readDtoList(DrawingDto, [drawing, drawing])).toHaveLength(2);
});

it('names the field that does not', () => {
  expect(() => readDto(DrawingDto, { ...drawing, counts: { ...drawing.counts, objects: 'many' } })).toThrow(
    /counts\.objects/,
  );
  expect(() => readDto(DrawingDto, { ...drawing, status: 'lost' })).toThrow(/status/);
  for (const name of ['', '   ', 'x'.repeat(201), 7]) expect(() => readDto(RenameDrawingDto, { name })).toThrow(/name/);
  for (const json of [null, 'text', [1]]) expect(() => readDto(RenameDrawingDto, json)).toThrow(DtoError);
});

it('has a problem for each code with a status, a title and what to do', () => {
  for (const code of Object.keys(problemCatalogue) as ProblemCode[]) {
    const problem = problemDetails(code, { detail: 'here' });
    expect(problem.type).toBe(`urn:gull-pane:problem:${code}`);
    expect(problem.status).toBeGreaterThanOrEqual(400);
    expect(problem.hint.length).toBeGreaterThan(10);
  }
});
