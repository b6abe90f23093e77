import { BufferAttribute, BufferGeometry, LineSegments, Matrix4, Mesh, type Object3D } from 'three';
import { facesOf, inForce, type ClipFace, type ClipVolume } from '@gull-pane/core/clip/clip-volume';
import { capOf, cutTriangles, linesInSide } from '@gull-pane/core/clip/section';
import { along3, sub3, type Vec3 } from '@gull-pane/core/geometry/vec';
import { RUN } from '@gull-pane/core/solid/solid-tile';
import type { SolidBody } from './solid-body';
import type { SolidMaterials } from './solid-materials';

/** Cuts stand so far within what is kept, as a share of the volume's size: so that the volume itself doesn't cut them. */
const WITHIN = 2e-5;
/** Ends of cut lines are one if they are nearer than this, drawing units: single precision in tiles. */
const TOLERANCE = 0.05;

/** The cut surfaces of what a pane's volumes cut open, in the sides of these. */
export class ClipCaps {
  #made: { readonly body: Mesh | LineSegments; readonly at: Vec3; readonly turn: Matrix4 }[] = [];
  /** How long making them took, ms. */
  lastMs = 0;

  constructor(private readonly materials: SolidMaterials) {}

  get isEmpty(): boolean {
    return this.#made.length === 0;
  }

  /** @param bodies what is drawn */
  make(volumes: readonly ClipVolume[], bodies: Iterable<SolidBody>): void {
    const began = performance.now();
    this.clear();
    const all = [...bodies];
    for (const volume of inForce(volumes)) {
      const size = volume.kind === 'box' ? Math.max(volume.half.x, volume.half.y, volume.half.z) : 1000;
      const inwards = (volume.keeps === 'inside' ? -1 : 1) * Math.max(size * WITHIN, 0.02);
      for (const face of facesOf(volume))
        this.#cut({ ...face, middle: along3(face.middle, face.normal, inwards) }, all);
    }
    this.lastMs = performance.now() - began;
  }

  clear(): void {
    for (const { body } of this.#made) body.geometry.dispose();
    this.#made = [];
  }

  /** Surfaces and lines, placed about an origin. */
  placed(origin: Vec3, kind: 'surfaces' | 'lines'): Object3D[] {
    return this.#made.flatMap(({ body, at, turn }) => {
      if (body instanceof Mesh !== (kind === 'surfaces')) return [];
      const { x, y, z } = sub3(at, origin);
      body.matrixWorld.copy(turn).setPosition(x, y, z);
      return [body];
    });
  }

  #cut(face: ClipFace, bodies: readonly SolidBody[]): void {
    const cuts = new Map<string, { readonly object: number; readonly material: number; readonly lines: number[] }>();
    for (const { content, origin } of bodies) {
      const { runs, triangles, sights } = content;
      if (!reaches(sights.groups, origin, face)) continue;
      let from = 0;
      for (let run = 0; run < runs.length; run += RUN) {
        const [object, material, , to] = [runs[run]!, runs[run + 1]!, runs[run + 2]!, runs[run + 3]!];
        const lines: number[] = [];
        cutTriangles({ positions: content.positions, triangles }, [from, to], origin, face, lines);
        from = to;
        if (lines.length === 0) continue;
        const key = `${object} ${material}`;
        const known = cuts.get(key);
        if (known) for (const value of lines) known.lines.push(value);
        else cuts.set(key, { object, material, lines });
      }
    }
    const surface: Columns = { places: [], objects: [], materials: [] };
    const outline: Columns = { places: [], objects: [], materials: [] };
    for (const { object, material, lines } of cuts.values()) {
      add(surface, capOf(lines, face, TOLERANCE), object, material);
      add(outline, linesInSide(lines, face), object, material);
    }
    const { u, v, normal, middle } = face;
    const turn = new Matrix4().set(u.x, v.x, normal.x, 0, u.y, v.y, normal.y, 0, u.z, v.z, normal.z, 0, 0, 0, 0, 1);
    const keep = (body: Mesh | LineSegments): void => {
      body.frustumCulled = body.matrixAutoUpdate = body.matrixWorldAutoUpdate = false;
      this.#made.push({ body, at: middle, turn });
    };
    if (surface.objects.length > 0) keep(new Mesh(geometryOf(surface), this.materials.caps));
    if (outline.objects.length > 0) {
      const geometry = geometryOf(outline);
      const count = outline.objects.length;
      const always = (z: number): BufferAttribute =>
        new BufferAttribute(
          Int8Array.from({ length: 4 * count }, (_, i) => (i % 4 === 2 ? z : 0)),
          4,
          true,
        );
      geometry.setAttribute('face', always(127));
      geometry.setAttribute('other', always(-127));
      geometry.setAttribute('density', new BufferAttribute(new Float32Array(count).fill(1e-12), 1));
      keep(new LineSegments(geometry, this.materials.edges));
    }
  }

  dispose(): void {
    this.clear();
  }
}

interface Columns {
  /** x, y pairs. */
  readonly places: number[];
  readonly objects: number[];
  readonly materials: number[];
}

function add(columns: Columns, places: readonly number[], object: number, material: number): void {
  for (let i = 0; i < places.length; i += 2) {
    columns.places.push(places[i]!, places[i + 1]!);
    columns.objects.push(object);
    columns.materials.push(material);
  }
}

function geometryOf({ places, objects, materials }: Columns): BufferGeometry {
  const geometry = new BufferGeometry();
  const positions = new Float32Array(3 * objects.length);
  for (let i = 0; i < objects.length; i++) {
    positions[3 * i] = places[2 * i]!;
    positions[3 * i + 1] = places[2 * i + 1]!;
  }
  geometry.setAttribute('position', new BufferAttribute(positions, 3));
  geometry.setAttribute('object', new BufferAttribute(Float32Array.from(objects), 1));
  geometry.setAttribute('material', new BufferAttribute(Float32Array.from(materials), 1));
  return geometry;
}

/** Whether any of a tile's boxes reaches through a plane. */
function reaches(boxes: Float32Array, origin: Vec3, { middle, normal }: ClipFace): boolean {
  const shift = sub3(origin, middle);
  const base = shift.x * normal.x + shift.y * normal.y + shift.z * normal.z;
  const [nx, ny, nz] = [Math.abs(normal.x), Math.abs(normal.y), Math.abs(normal.z)];
  for (let i = 0; i < boxes.length; i += 6) {
    const [x0, y0, z0, x1, y1, z1] = [0, 1, 2, 3, 4, 5].map((k) => boxes[i + k]!) as [
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    const height = base + ((x0 + x1) / 2) * normal.x + ((y0 + y1) / 2) * normal.y + ((z0 + z1) / 2) * normal.z;
    if (Math.abs(height) <= ((x1 - x0) / 2) * nx + ((y1 - y0) / 2) * ny + ((z1 - z0) / 2) * nz) return true;
  }
  return false;
}
