import { expect, it } from 'vitest';
import { ReadError } from '../read-error.ts';
import { readBegun, writeBegun, type BegunDrawing } from './read-begun.ts';

const drawing: BegunDrawing = { kind: 'solid', unit: 'ft', tolerance: 0.0003, gridStep: 2.5 };

it('reads what it has written', () => {
  expect(readBegun(writeBegun(drawing))).toEqual(drawing);
});

it('leaves everything else to other readers', () => {
  for (const text of ['<svg/>', '{"type":"FeatureCollection"}', '', '{"gullPaneDrawing": 1', 'gullPaneDrawing'])
    expect(readBegun(text)).toBeNull();
});

it.each([
  ['of another version', { gullPaneDrawing: 2 }],
  ['without a kind', { gullPaneDrawing: 1, unit: 'm', tolerance: 0, gridStep: 0 }],
  ['in a unit of its own', { gullPaneDrawing: 1, ...drawing, unit: 'ell' }],
  ['with a tolerance below nothing', { gullPaneDrawing: 1, ...drawing, tolerance: -1 }],
])('refuses one %s', (_, told) => {
  expect(() => readBegun(JSON.stringify(told))).toThrow(ReadError);
});
