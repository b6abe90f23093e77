import type { Material } from '@gull-pane/core/solid/solid-model';

/** Most distinct colours kept for one mesh. */
const MOST_COLOURS = 64;
/** Most distinct colours kept for one file. */
const MOST_IN_FILE = 256;
/** Steps of a channel that colours are gathered by. */
const STEP = 17;

/** What the report says of them. */
export const GATHERED =
  'colours of vertices and of pictures on surfaces are gathered: each triangle has the nearest of the commonest ones';

interface Known {
  readonly colour: readonly [number, number, number];
  readonly material: number;
}

/** Makes materials of colours that stand at vertices: triangles have one colour each, and a file has a few of them. */
export class VertexColours {
  readonly #known: Known[] = [];
  readonly #byCell = new Map<number, number>();

  /** @param materials of the file; those that are needed are added */
  constructor(private readonly materials: Material[]) {}

  /**
   * @param colours red, green, blue of each vertex, 0 … 255 in sRGB
   * @param triangles three vertices each
   * @returns the material of each triangle
   */
  of(colours: ArrayLike<number>, triangles: ArrayLike<number>): Uint32Array {
    const means = new Float32Array(triangles.length);
    for (let t = 0; t < means.length; t += 3)
      for (let channel = 0; channel < 3; channel++)
        for (let k = 0; k < 3; k++) means[t + channel]! += colours[3 * triangles[t + k]! + channel]! / 3;
    return this.ofTriangles(means);
  }

  /** @param colours red, green, blue of each triangle, 0 … 255 in sRGB @returns the material of each */
  ofTriangles(colours: ArrayLike<number>): Uint32Array {
    const cells = new Uint16Array(colours.length / 3);
    const counts = new Map<number, number>();
    for (let t = 0; t < cells.length; t++) {
      let cell = 0;
      for (let channel = 0; channel < 3; channel++)
        cell = 16 * cell + Math.min(Math.max(Math.round(colours[3 * t + channel]! / STEP), 0), 15);
      cells[t] = cell;
      counts.set(cell, (counts.get(cell) ?? 0) + 1);
    }
    const commonest = [...counts].sort((a, b) => b[1] - a[1]);
    for (const [cell] of commonest.slice(0, MOST_COLOURS)) if (this.#known.length < MOST_IN_FILE) this.#add(cell);
    return Uint32Array.from(cells, (cell) => this.#materialOf(cell));
  }

  #add(cell: number): void {
    if (this.#byCell.has(cell)) return;
    const colour = colourOf(cell);
    const [r, g, b] = colour;
    const name = `Colour ${this.#known.length + 1}`;
    const material = this.materials.push({ name, colour: { r, g, b, a: 255 }, metalness: 0, roughness: 0.8 }) - 1;
    this.#known.push({ colour, material });
    this.#byCell.set(cell, material);
  }

  #materialOf(cell: number): number {
    let material = this.#byCell.get(cell);
    if (material === undefined) {
      const own = colourOf(cell);
      const distance = ({ colour }: Known): number => Math.hypot(...colour.map((value, i) => value - own[i]!));
      material = this.#known.reduce((best, one) => (distance(one) < distance(best) ? one : best)).material;
      this.#byCell.set(cell, material);
    }
    return material;
  }
}

const colourOf = (cell: number): readonly [number, number, number] => [
  STEP * (cell >> 8),
  STEP * ((cell >> 4) & 15),
  STEP * (cell & 15),
];
