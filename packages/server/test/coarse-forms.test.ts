import { beforeAll, describe, expect, it } from 'vitest';
import { CoarseItems } from '@gull-pane/core/solid/coarse-items';
import type { Simplify } from '@gull-pane/core/solid/coarse-mesh';
import { SolidItems, type PlacedForm, type TilePiece } from '@gull-pane/core/solid/solid-items';
import { cube, torus, tube } from '@gull-pane/core/solid/test-shapes';
import { loadSimplifier } from '../src/pyramid/simplify-mesh.ts';

const RING = 2000;
const THICKNESS = 700;
let simplify: Simplify;
let calls = 0;

beforeAll(async () => {
  const own = await loadSimplifier();
  simplify = (mesh) => {
    calls++;
    return own(mesh);
  };
});

const formOf = ({ form }: TilePiece): PlacedForm => form as PlacedForm;
const trianglesIn = (pieces: readonly TilePiece[]): number =>
  pieces.reduce((sum, piece) => sum + formOf(piece).recipe.triangles.length / 3, 0);
const everyItem = (items: SolidItems): Uint32Array => Uint32Array.from({ length: items.length }, (_, item) => item);

/** x, y, z of the corners of every triangle. */
function cornersOf(pieces: readonly TilePiece[]): number[][][] {
  return pieces.flatMap((piece) => {
    const { recipe, positions } = formOf(piece);
    const at = (corner: number): number[] => {
      const from = positions.start + 3 * recipe.vertices[recipe.triangles[corner]!]!;
      return [...positions.block.subarray(from, from + 3)];
    };
    return Array.from({ length: recipe.triangles.length / 3 }, (_, t) => [at(3 * t), at(3 * t + 1), at(3 * t + 2)]);
  });
}

/** How far a place is from the surface of the ring. */
function awayFromRing([x, y, z]: readonly number[]): number {
  return Math.abs(Math.hypot(Math.hypot(x!, y!) - RING, z!) - THICKNESS);
}

describe('coarse forms', () => {
  it('have far fewer triangles, at places of the mesh, and stay near its surface', () => {
    const items = new SolidItems();
    items.add({ object: 0, material: 0, ...torus(RING, THICKNESS, 96, 48) });
    const own = trianglesIn(items.tilePieces(everyItem(items)));
    let before = own;
    for (const error of [10, 40, 160]) {
      const pieces = new CoarseItems(items, simplify).of(everyItem(items), error, true);
      expect(trianglesIn(pieces)).toBeLessThan(before / 1.5);
      before = trianglesIn(pieces);
      for (const corners of cornersOf(pieces)) {
        for (const corner of corners) expect(awayFromRing(corner)).toBeLessThan(0.01);
        const middle = [0, 1, 2].map((axis) => (corners[0]![axis]! + corners[1]![axis]! + corners[2]![axis]!) / 3);
        // the package reckons errors by planes; the mesh itself is off by 1.5 units between its vertices
        expect(awayFromRing(middle)).toBeLessThan(2 * error + 1.5);
      }
    }
    expect(before).toBeLessThan(own / 20);
  });

  it('are smooth where the mesh is, and have its sharp edges', () => {
    const items = new SolidItems();
    items.add({ object: 0, material: 0, ...torus(RING, THICKNESS, 96, 48) });
    items.add({ object: 1, material: 0, ...cube(4000, [9000, 0, 0]) });
    items.add({ object: 2, material: 0, ...tube(800, 6000, 64) });
    const pieces = new CoarseItems(items, simplify).of(everyItem(items), 60, true);
    const [ring, box, pipe] = [0, 1, 2].map((object) => {
      const { edgeEnds, edgeNormals } = formOf(pieces.find((piece) => piece.object === object)!).recipe;
      const sharp = Array.from({ length: edgeEnds.length / 2 }, (_, edge) =>
        [0, 1, 2].every((axis) => edgeNormals[6 * edge + axis] === -edgeNormals[6 * edge + 3 + axis]!),
      ).filter(Boolean).length;
      return { sharp, all: edgeEnds.length / 2 };
    });
    expect(ring!.sharp).toBe(0);
    expect(ring!.all).toBeGreaterThan(10);
    expect(box).toEqual({ sharp: 12, all: 12 });
    // both rims are sharp, nothing along the pipe is
    expect(pipe!.all).toBeGreaterThan(pipe!.sharp);
    expect(pipe!.sharp).toBeLessThan(2 * 64);
  });

  it('leave out what is smaller than twice the error, and no thin bar that can be seen', () => {
    const items = new SolidItems();
    items.add({ object: 0, material: 0, ...cube(150, [0, 0, 0]) });
    items.add({ object: 1, material: 0, ...tube(20, 5000, 16) });
    items.add({ object: 2, material: 0, ...tube(5, 5000, 16) });
    const pieces = new CoarseItems(items, simplify).of(everyItem(items), 100, false);
    expect(pieces.map(({ object }) => object)).toEqual([1]);
    const zs = cornersOf(pieces).flatMap((corners) => corners.map(([, , z]) => z!));
    expect(Math.max(...zs) - Math.min(...zs)).toBe(5000);
  });

  it('are made once a shape that stands at many places, turned and sized as it stands there', () => {
    const items = new SolidItems();
    const { positions, triangles } = torus(RING, THICKNESS, 48, 24);
    const key = {};
    const places = 50;
    for (let place = 0; place < places; place++) {
      // a quarter turn about X a place: (x, y, z) becomes (x, −z, y)
      const isTurned = place % 2 === 1;
      const turn = isTurned ? [1, 0, 0, 0, 0, -1, 0, 1, 0] : [1, 0, 0, 0, 1, 0, 0, 0, 1];
      const own = positions.map((_, i) => {
        const [x, y, z] = [0, 1, 2].map((axis) => positions[i - (i % 3) + axis]!) as [number, number, number];
        return (isTurned ? [x, -z, y] : [x, y, z])[i % 3]! + 10_000 * place;
      });
      items.add({ object: place, material: 0, positions: own, triangles, shape: { key, turn } });
    }
    calls = 0;
    const pieces = new CoarseItems(items, simplify).of(everyItem(items), 50, false);
    expect(calls).toBe(1);
    expect(pieces).toHaveLength(places);
    const [first, second] = pieces.map((piece, place) =>
      cornersOf([piece]).map((corners) =>
        corners.map((corner) => corner.map((value) => Math.round(1e6 * (value - 10_000 * place)) + 0)),
      ),
    );
    expect(second).toEqual(first!.map((corners) => corners.map(([x, y, z]) => [x, 0 - z!, y])));
  });

  it('of the parts of a large mesh meet where these meet', () => {
    const items = new SolidItems();
    items.add({ object: 0, material: 0, ...torus(RING, THICKNESS, 160, 60) });
    expect(items.length).toBeGreaterThan(4);
    const half = items.length >> 1;
    const coarse = new CoarseItems(items, simplify);
    const pieces = [
      ...coarse.of(everyItem(items).slice(0, half), 40, true),
      ...coarse.of(everyItem(items).slice(half), 40, true),
    ];
    expect(openSides(pieces)).toBe(0);
    // made of these, a form of all of it has no seams to keep
    const whole = coarse.of(everyItem(items), 80, true);
    expect(whole).toHaveLength(1);
    expect(openSides(whole)).toBe(0);
    expect(trianglesIn(whole)).toBeLessThan(trianglesIn(pieces) / 2);
  });
});

/** Sides of triangles that no other triangle has. */
function openSides(pieces: readonly TilePiece[]): number {
  const met = new Map<string, number>();
  for (const corners of cornersOf(pieces)) {
    const names = corners.map((corner) => corner.join(' '));
    names.forEach((name, k) => {
      const side = [name, names[(k + 1) % 3]!].sort().join('|');
      met.set(side, (met.get(side) ?? 0) + 1);
    });
  }
  return [...met.values()].filter((times) => times === 1).length;
}
