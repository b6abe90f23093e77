import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cross3, dot3, type Vec3 } from '../geometry/vec.ts';
import { MeshComponents } from './mesh-components.ts';
import { recipeOf, type PieceRecipe } from './mesh-recipe.ts';
import { cube, tube, type TestMesh } from './test-shapes.ts';
import { joinForms, takeThinBars } from './thin-parts.ts';

/** A cube stretched to a box about its lowest corner. */
function bar(length: number, width: number, height: number): TestMesh {
  const { positions, triangles } = cube(1);
  return { positions: positions.map((value, i) => value * [length, width, height][i % 3]!), triangles };
}

/** What becomes of a mesh in one piece. */
function taken(mesh: TestMesh, most: number, least = 0) {
  const [piece] = recipeOf(mesh) as [PieceRecipe];
  const positions = { block: mesh.positions, start: 0 };
  const components = new MeshComponents([piece], positions);
  return { piece, ...takeThinBars(piece, components, positions, { least, most }) };
}

const placesOf = ({ vertices }: PieceRecipe, { positions }: TestMesh): Vec3[] =>
  Array.from(vertices, (vertex) => ({
    x: positions[3 * vertex]!,
    y: positions[3 * vertex + 1]!,
    z: positions[3 * vertex + 2]!,
  }));

/** How wide places are along a direction. */
function widthAlong(places: readonly Vec3[], direction: Vec3): number {
  const along = places.map((place) => dot3(place, direction));
  return Math.max(...along) - Math.min(...along);
}

const between = (min: number, max: number) => fc.double({ min, max, noNaN: true });

describe('thin bars', () => {
  it('of four corners are as wide as before from every side, in four triangles', () => {
    fc.assert(
      fc.property(
        fc.tuple(between(1, 2), between(20, 900), between(0, Math.PI), between(0, Math.PI)),
        ([height, length, turnRad, lookRad]) => {
          const [cosine, sine] = [Math.cos(turnRad), Math.sin(turnRad)];
          const { positions, triangles } = bar(length, 1, height);
          // turned about Z, at coordinates of a national grid
          const placed = positions.map((value, i) => {
            const [x, y] = [positions[i - (i % 3)]!, positions[i - (i % 3) + 1]!];
            return [412e3 + cosine * x - sine * y, 7208e3 + sine * x + cosine * y, value][i % 3]!;
          });
          const mesh = { positions: placed, triangles };
          const { piece, sheets, rest } = taken(mesh, 3);
          expect(rest.triangles).toHaveLength(0);
          expect(sheets!.triangles).toHaveLength(12);
          const axis = { x: cosine, y: sine, z: 0 };
          const side = cross3({ x: 0, y: 0, z: 1 }, axis);
          const across = {
            x: Math.cos(lookRad) * side.x,
            y: Math.cos(lookRad) * side.y,
            z: Math.sin(lookRad),
          };
          // of the four corners of its ends a bar's sheets have all: doubles of this size are 1e-9 apart
          expect(widthAlong(placesOf(sheets!, mesh), across)).toBeCloseTo(widthAlong(placesOf(piece, mesh), across), 7);
        },
      ),
    );
  });

  it('that are flat are one sheet, of their full length', () => {
    const { sheets } = taken(bar(100, 1, 0.1), 2);
    expect(sheets!.triangles).toHaveLength(6);
    const places = placesOf(sheets!, bar(100, 1, 0.1));
    expect(widthAlong(places, { x: 1, y: 0, z: 0 })).toBe(100);
    expect(widthAlong(places, { x: 0, y: 1, z: 0 })).toBe(1);
  });

  it('that are round are nearly as wide as before', () => {
    const mesh = tube(1, 80, 12);
    const { piece, sheets } = taken(mesh, 2.01);
    expect(sheets!.triangles).toHaveLength(12);
    for (let k = 0; k < 12; k++) {
      const across = { x: Math.cos(k), y: Math.sin(k), z: 0 };
      const share = widthAlong(placesOf(sheets!, mesh), across) / widthAlong(placesOf(piece, mesh), across);
      expect(share).toBeGreaterThan(Math.SQRT1_2 - 1e-9);
    }
  });

  it('are those alone: what is thicker, thinner, shorter or swollen between its ends stays', () => {
    for (const mesh of [bar(100, 4, 4), bar(100, 0.2, 0.2), bar(7, 1, 1), bar(100, 100, 0)]) {
      const { piece, sheets, rest } = taken(mesh, 2, 0.3);
      expect(sheets).toBeNull();
      expect(rest).toBe(piece);
    }
    const { positions, triangles } = tube(1, 60, 8);
    const swollen = tube(1.5, 20, 8);
    const both = {
      positions: Float64Array.of(...positions, ...swollen.positions.map((value, i) => value + (i % 3 === 2 ? 20 : 0))),
      triangles: Uint32Array.of(
        ...triangles,
        ...swollen.triangles.map((vertex) => vertex + 16),
        // three that hold them together
        0,
        16,
        17,
      ),
    };
    expect(taken(both, 2).sheets).toBeNull();
  });

  it('are taken from among other parts, and joined to what becomes of these', () => {
    const [block, rod] = [cube(50), bar(100, 1, 1)];
    const mesh = {
      positions: Float64Array.of(...block.positions, ...rod.positions.map((value) => value + 200)),
      triangles: Uint32Array.of(...block.triangles, ...rod.triangles.map((vertex) => vertex + 8)),
    };
    const { sheets, rest } = taken(mesh, 2);
    expect(rest.triangles).toHaveLength(36);
    const both = joinForms(rest, sheets!);
    expect(both.triangles).toHaveLength(36 + 12);
    const used = [...new Set(both.triangles)].map((vertex) => both.vertices[vertex]!);
    expect(new Set(used)).toEqual(new Set(Array.from({ length: 16 }, (_, vertex) => vertex)));
    expect(both.normals).toHaveLength(3 * both.vertices.length);
    expect(both.edgeNormals).toHaveLength(3 * both.edgeEnds.length);
  });
});
