import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PNG } from 'pngjs';
import { beforeAll, describe, expect, it } from 'vitest';
import { seededRandom } from '@gull-pane/core/geometry/random';
import { placeItems } from '@gull-pane/core/pyramid/place';
import { CoarseItems } from '@gull-pane/core/solid/coarse-items';
import type { Simplify } from '@gull-pane/core/solid/coarse-mesh';
import { SolidItems, type PlacedForm, type TilePiece } from '@gull-pane/core/solid/solid-items';
import { cube, torus, tube } from '@gull-pane/core/solid/test-shapes';
import { PICTURE_WIDTH } from '../src/pyramid/picture.ts';
import { loadSimplifier } from '../src/pyramid/simplify-mesh.ts';
import { drawSolidPicture } from '../src/pyramid/solid-picture.ts';
import { writeSolidTileset } from '../src/pyramid/write-solid-tileset.ts';

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
      const { pieces } = new CoarseItems(items, simplify).of(everyItem(items), error, true);
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
    const { pieces } = new CoarseItems(items, simplify).of(everyItem(items), 60, true);
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
    items.add({ object: 2, material: 0, ...tube(2, 5000, 16) });
    const { pieces } = new CoarseItems(items, simplify).of(everyItem(items), 100, false);
    expect(pieces.map(({ object }) => object)).toEqual([1]);
    const zs = cornersOf(pieces).flatMap((corners) => corners.map(([, , z]) => z!));
    expect(Math.max(...zs) - Math.min(...zs)).toBe(5000);
  });

  it('keep bars that are far thinner than the error, in few triangles', () => {
    const bars = Array.from({ length: 25 }, (_, k) => {
      const { positions } = cube(1, [0, 0, 0]);
      return positions.map((value, i) => [5 * value + 40 * k, 1000 * value, 30 * value][i % 3]!);
    });
    const { triangles } = cube(1);
    const items = new SolidItems();
    items.add({
      object: 0,
      material: 0,
      positions: Float64Array.from(bars.flatMap((positions) => [...positions])),
      triangles: Uint32Array.from(bars.flatMap((_, k) => Array.from(triangles, (vertex) => vertex + 8 * k))),
    });
    const { pieces } = new CoarseItems(items, simplify).of(everyItem(items), 100, false);
    expect(trianglesIn(pieces)).toBe(25 * 2);
    for (const [k, corners] of cornersOf(pieces).entries()) {
      const xs = corners.map(([x]) => x!);
      expect([Math.min(...xs), Math.max(...xs)]).toEqual([40 * Math.floor(k / 2), 40 * Math.floor(k / 2) + 5]);
    }
    const zs = cornersOf(pieces).flatMap((corners) => corners.map(([, , z]) => z!));
    expect([Math.min(...zs), Math.max(...zs)]).toEqual([0, 30]);
  });

  it('aren’t put together where what can only be left out is too heavy by itself', () => {
    const items = new SolidItems();
    const corner = (object: number): Float64Array =>
      Float64Array.of(0, 0, 0, 100, 0, 0, 0, 100, 0).map((value, i) => value + (i % 3 === 0 ? 200 * object : 0));
    for (let object = 0; object < 50; object++)
      items.add({ object, material: 0, positions: corner(object), triangles: Uint32Array.of(0, 1, 2) });
    items.add({ object: 50, material: 0, ...torus(RING, THICKNESS, 32, 16) });
    const coarse = new CoarseItems(items, simplify);
    const [least, all] = [50, everyItem(items)];
    calls = 0;
    expect(coarse.of(all, 10, false, { tooHeavy: least - 1 })).toEqual({ pieces: [], weight: least, error: 10 });
    expect(calls).toBe(0);
    const { pieces, weight } = coarse.of(all, 10, false, { tooHeavy: 100_000 });
    expect(pieces).toHaveLength(51);
    expect(weight).toBeGreaterThan(least + 100);
    // their edges are seen from nearer by
    expect(coarse.of(all, 1, false, { tooHeavy: 4 * least - 1 })).toEqual({ pieces: [], weight: 4 * least, error: 1 });
    expect(coarse.of(all, 51, false, { tooHeavy: 0 }).pieces).toHaveLength(1);
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
    const { pieces } = new CoarseItems(items, simplify).of(everyItem(items), 50, false);
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
      ...coarse.of(everyItem(items).slice(0, half), 40, true).pieces,
      ...coarse.of(everyItem(items).slice(half), 40, true).pieces,
    ];
    expect(openSides(pieces)).toBe(0);
    // made of these, a form of all of it has no seams to keep
    const { pieces: whole } = coarse.of(everyItem(items), 80, true);
    expect(whole).toHaveLength(1);
    expect(openSides(whole)).toBe(0);
    expect(trianglesIn(whole)).toBeLessThan(trianglesIn(pieces) / 2);
  });

  it('of a large mesh weigh what is wanted, and are no coarser than that needs', () => {
    const rough = new SolidItems();
    const { positions, triangles } = torus(RING, THICKNESS, 160, 60);
    const random = seededRandom(3);
    rough.add({ object: 0, material: 0, positions: positions.map((value) => value + 60 * random()), triangles });
    const all = everyItem(rough);
    const whole = rough.weight.view().reduce((sum, weight) => sum + weight, 0);
    const [wanted, mostError] = [whole / 3, RING];
    const { pieces, weight, error } = new CoarseItems(rough, simplify).of(all, 1, true, { wanted, mostError });
    expect(pieces).toHaveLength(1);
    expect(weight).toBeLessThanOrEqual(wanted);
    expect(weight).toBeGreaterThan(0.8 * wanted);
    expect(openSides(pieces)).toBe(0);
    expect(new CoarseItems(rough, simplify).of(all, error / 2, true).weight).toBeGreaterThan(wanted);
    expect(new CoarseItems(rough, simplify).of(all, 1, true, { wanted, mostError: error / 2 }).weight).toBeGreaterThan(
      wanted,
    );
    // what is asked for is coarse enough
    const smooth = new SolidItems();
    smooth.add({ object: 0, material: 0, positions, triangles });
    const limits = { wanted: whole / 2, mostError };
    const asAsked = new CoarseItems(smooth, simplify).of(all, 60, true, limits);
    expect(asAsked.error).toBe(60);
    expect(asAsked.weight).toBeLessThan(whole / 4);
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

it('a small picture needs no more triangles than it has room for, and shows the same', async () => {
  const items = new SolidItems();
  const rings = 12;
  const pitch = 3 * RING;
  for (let object = 0; object < rings; object++) {
    const { positions, triangles } = torus(RING, THICKNESS, 192, 96);
    for (let i = 0; i < positions.length; i += 3) {
      positions[i]! += pitch * (object % 4);
      positions[i + 1]! += pitch * Math.floor(object / 4);
    }
    items.add({ object, material: 0, positions, triangles });
  }
  const material = { name: 'Steel', colour: { r: 120, g: 140, b: 160, a: 255 }, metalness: 0, roughness: 1 };
  const root = placeItems(items, { tileWeight: 8000, random: seededRandom(1) });
  const files = await writeSolidTileset(root, items, [material], mkdtempSync(join(tmpdir(), 'gull-pane-')), '');
  await files.finish();
  const support = [-1, 4].flatMap((x) => [-1, 3].flatMap((y) => [x * pitch, y * pitch, 0]));
  const seen = (pieces: readonly TilePiece[]): PNG => PNG.sync.read(drawSolidPicture(pieces, [material], support));
  const ofPx = (5 * pitch) / PICTURE_WIDTH;
  const [all, light] = [[...files.pieces(0)], [...files.pieces(ofPx / 2)]];
  expect(trianglesIn(all)).toBe(rings * 2 * 192 * 96);
  expect(trianglesIn(light)).toBeLessThan(trianglesIn(all) / 3);
  const [exact, coarse] = [seen(all), seen(light)];
  let differs = 0;
  for (let at = 0; at < exact.data.length; at += 4) {
    const isOff = [0, 1, 2, 3].some((channel) => Math.abs(exact.data[at + channel]! - coarse.data[at + channel]!) > 24);
    if (isOff) differs++;
  }
  // outlines are off by half a px: of the px along them, outer and inner, half may look different
  const alongOutlines = (rings * 2 * Math.PI * (RING + THICKNESS + RING - THICKNESS)) / ofPx;
  expect(differs).toBeLessThan(alongOutlines / 2);
  expect(exact.data.filter((value, i) => i % 4 === 3 && value > 0).length).toBeGreaterThan(10_000);
});
