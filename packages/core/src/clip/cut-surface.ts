import type { Vec3 } from '../geometry/vec.ts';
import { sub3 } from '../geometry/vec.ts';
import { PER_CLUSTER, PER_GROUP, type SightIndex } from '../solid/sight-hit.ts';
import { RUN, type DecodedSolidTile } from '../solid/solid-tile.ts';
import type { ClipFace } from './clip-volume.ts';
import { capOf, cutTriangles, linesInSide } from './section.ts';

/** A tile that a plane may cut. */
export interface CutTile {
  readonly content: DecodedSolidTile & { readonly sights: SightIndex };
  readonly origin: Vec3;
}

/** Where a plane meets the triangles of one object in one material. */
export interface ObjectCut {
  readonly object: number;
  readonly material: number;
  /** x0, y0, x1, y1 of each line, in the plane's own coordinates about its middle. */
  readonly lines: readonly number[];
}

/** What is drawn of cuts, in the plane's own coordinates. */
export interface CutColumns {
  /** x, y a vertex: three a triangle of a surface, two a line of an outline. */
  readonly places: Float32Array<ArrayBuffer>;
  readonly objects: Float32Array<ArrayBuffer>;
  readonly materials: Float32Array<ArrayBuffer>;
}

export interface CutSurface {
  readonly surface: CutColumns;
  readonly outline: CutColumns;
}

/** Ends of cut lines are one if they are nearer than this, drawing units: single precision in tiles. */
const TOLERANCE = 0.05;

/** Where the plane of a side meets tiles; only triangles in boxes that reach through it are looked at. */
export function cutLines(face: ClipFace, tiles: Iterable<CutTile>): ObjectCut[] {
  const cuts = new Map<string, { readonly object: number; readonly material: number; readonly lines: number[] }>();
  for (const { content, origin } of tiles) {
    const { runs, triangles, sights } = content;
    const reaches = reachTest(origin, face);
    let run = 0;
    for (let group = 0; group < sights.groups.length / 6; group++) {
      if (!reaches(sights.groups, 6 * group)) continue;
      const last = Math.min((group + 1) * PER_GROUP, sights.clusters.length / 6);
      for (let cluster = group * PER_GROUP; cluster < last; cluster++) {
        if (!reaches(sights.clusters, 6 * cluster)) continue;
        const end = Math.min(3 * PER_CLUSTER * (cluster + 1), triangles.length);
        for (let from = 3 * PER_CLUSTER * cluster; from < end;) {
          while (runs[run + 3]! <= from) run += RUN;
          const to = Math.min(runs[run + 3]!, end);
          const lines: number[] = [];
          cutTriangles(content, [from, to], origin, face, lines);
          from = to;
          if (lines.length === 0) continue;
          const [object, material] = [runs[run]!, runs[run + 1]!];
          const key = `${object} ${material}`;
          const known = cuts.get(key);
          if (known) for (const value of lines) known.lines.push(value);
          else cuts.set(key, { object, material, lines });
        }
      }
    }
  }
  return [...cuts.values()];
}

/** Closes what was cut open: areas, and the lines around them, within the side. */
export function cutSurface(face: ClipFace, cuts: readonly ObjectCut[]): CutSurface {
  const surface: Gathered = { places: [], objects: [], materials: [] };
  const outline: Gathered = { places: [], objects: [], materials: [] };
  for (const { object, material, lines } of cuts) {
    gather(surface, capOf(lines, face, TOLERANCE), object, material);
    gather(outline, linesInSide(lines, face), object, material);
  }
  return { surface: columnsOf(surface), outline: columnsOf(outline) };
}

interface Gathered {
  readonly places: number[];
  readonly objects: number[];
  readonly materials: number[];
}

function gather(to: Gathered, places: readonly number[], object: number, material: number): void {
  for (let i = 0; i < places.length; i += 2) {
    to.places.push(places[i]!, places[i + 1]!);
    to.objects.push(object);
    to.materials.push(material);
  }
}

const columnsOf = ({ places, objects, materials }: Gathered): CutColumns => ({
  places: Float32Array.from(places),
  objects: Float32Array.from(objects),
  materials: Float32Array.from(materials),
});

/** Whether a box of a tile, least coordinates then largest, reaches through a plane. */
function reachTest(origin: Vec3, { middle, normal }: ClipFace): (boxes: Float32Array, at: number) => boolean {
  const shift = sub3(origin, middle);
  const base = shift.x * normal.x + shift.y * normal.y + shift.z * normal.z;
  const [nx, ny, nz] = [Math.abs(normal.x), Math.abs(normal.y), Math.abs(normal.z)];
  return (boxes, at) => {
    const [x0, y0, z0] = [boxes[at]!, boxes[at + 1]!, boxes[at + 2]!];
    const [x1, y1, z1] = [boxes[at + 3]!, boxes[at + 4]!, boxes[at + 5]!];
    const height = base + ((x0 + x1) / 2) * normal.x + ((y0 + y1) / 2) * normal.y + ((z0 + z1) / 2) * normal.z;
    return Math.abs(height) <= ((x1 - x0) / 2) * nx + ((y1 - y0) / 2) * ny + ((z1 - z0) / 2) * nz;
  };
}
