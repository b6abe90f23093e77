import { describe, expect, it } from 'vitest';
import { encodeSolidTile } from '../solid/encode-solid-tile.ts';
import { indexTriangles } from '../solid/sight-hit.ts';
import { SolidItems } from '../solid/solid-items.ts';
import { decodeSolidTile } from '../solid/solid-tile.ts';
import { cube, torus } from '../solid/test-shapes.ts';
import { facesOf, type ClipVolume } from './clip-volume.ts';
import { cutLines, cutSurface, type CutTile, type ObjectCut } from './cut-surface.ts';
import { cutTriangles } from './section.ts';

const grey = { name: 'Grey', colour: { r: 128, g: 128, b: 128, a: 255 }, metalness: 0, roughness: 1 };
const origin = { x: 412_600_000, y: 7_208_400_000, z: 0 };
const [RADIUS, ROUND] = [2000, 700];

/** Objects 0 … 5: rings in a row, 5 m from one to the next, and a cube at the end. */
function tiles(): CutTile[] {
  const items = new SolidItems();
  for (let object = 0; object < 6; object++) {
    const { positions, triangles } = object < 5 ? torus(RADIUS, ROUND, 96, 48) : cube(1000, [-500, -500, -500]);
    const moved = positions.map((value, i) => value + [origin.x + 5000 * object, origin.y, 0][i % 3]!);
    items.add({ object, material: object % 2, positions: moved, triangles });
  }
  const halves = [0, 1].map((half) => Array.from({ length: items.length }, (_, i) => i).filter((i) => i % 2 === half));
  return halves.map((chosen) => {
    const tile = decodeSolidTile(encodeSolidTile(items.tilePieces(chosen), origin, [grey, grey]).bytes);
    return { content: { ...tile, sights: indexTriangles(tile) }, origin };
  });
}

const box: ClipVolume = {
  kind: 'box',
  id: 1,
  name: '',
  isOn: true,
  keeps: 'inside',
  centre: { x: origin.x + 10_000, y: origin.y, z: -10_000 },
  orientation: { x: 0, y: 0, z: 0, w: 1 },
  half: { x: 40_000, y: 40_000, z: 10_000 },
};
/** Level, through the middle of everything. */
const level = facesOf(box).find(({ normal }) => Math.abs(normal.z) > 0.9 && normal.z > 0)!;

/** The area of three points a triangle. */
function areaOf(places: Float32Array): number {
  let area = 0;
  for (let i = 0; i + 5 < places.length; i += 6) {
    const [x0, y0, x1, y1, x2, y2] = places.subarray(i, i + 6) as unknown as number[];
    area += Math.abs((x1! - x0!) * (y2! - y0!) - (x2! - x0!) * (y1! - y0!)) / 2;
  }
  return area;
}

describe('cuts through tiles', () => {
  it('are those of all triangles, though few of them are looked at', () => {
    const all = tiles();
    const sum = ({ lines }: Pick<ObjectCut, 'lines'>): number => lines.reduce((total, value) => total + value, 0);
    const found = new Map(cutLines(level, all).map((cut) => [cut.object, cut]));
    expect([...found.keys()].sort()).toEqual([0, 1, 2, 3, 4, 5]);
    const lines: number[] = [];
    for (const { content } of all) cutTriangles(content, [0, content.triangles.length], origin, level, lines);
    const count = [...found.values()].reduce((total, cut) => total + cut.lines.length, 0);
    expect(count).toBe(lines.length);
    expect([...found.values()].reduce((total, cut) => total + sum(cut), 0)).toBeCloseTo(sum({ lines }), 3);
  });

  it('are closed to areas and outlines that belong to the objects', () => {
    const { surface, outline } = cutSurface(level, cutLines(level, tiles()));
    const areaOfObject = (object: number): number =>
      areaOf(surface.places.filter((_, i) => surface.objects[i >> 1] === object));
    // a ring that is cut flat lies between two circles; polygons of 96 sides in them are smaller by 0.07 %
    const ring = Math.PI * ((RADIUS + ROUND) ** 2 - (RADIUS - ROUND) ** 2);
    for (let object = 0; object < 5; object++) expect(Math.abs(areaOfObject(object) / ring - 1)).toBeLessThan(0.003);
    expect(areaOfObject(5)).toBeCloseTo(1_000_000, 0);
    expect(new Set(surface.materials)).toEqual(new Set([0, 1]));
    expect(outline.places.length).toBe(2 * outline.objects.length);
    expect(new Set(outline.objects)).toEqual(new Set([0, 1, 2, 3, 4, 5]));
  });

  it('are none where the plane passes by', () => {
    const above = { ...level, middle: { ...level.middle, z: 900 } };
    expect(cutLines(above, tiles())).toEqual([]);
    expect(cutSurface(above, []).surface.places).toHaveLength(0);
  });
});
