import { BufferAttribute, BufferGeometry, LineSegments, Matrix4, Mesh, type Object3D } from 'three';
import { facesOf, inForce, type ClipFace, type ClipVolume } from '@gull-pane/core/clip/clip-volume';
import { cutLines, type CutColumns, type CutSurface, type CutTile } from '@gull-pane/core/clip/cut-surface';
import { along3, sub3, type Vec3 } from '@gull-pane/core/geometry/vec';
import { LineClosed, Newest, Overtaken, type WorkerLine } from '../../basics/worker-line';
import type { CapCalls } from './cap-calls';
import type { SolidMaterials } from './solid-materials';

/** Cuts stand so far within what is kept, as a share of the volume's size: so that the volume itself doesn't cut them. */
const WITHIN = 2e-5;

/** The cut surfaces of what a pane's volumes cut open, in the sides of these. A worker closes them. */
export class ClipCaps {
  #made: { readonly body: Mesh | LineSegments; readonly at: Vec3; readonly turn: Matrix4 }[] = [];
  /** What they were ordered of last, and whether that is still being made. */
  #order: { readonly clips: readonly ClipVolume[]; readonly tiles: number } | null = null;
  #isBusy = false;
  readonly #newest = new Newest();
  /** From order to picture, the last time, ms. */
  lastMs = 0;
  /** Rises with everything that shows differently. */
  changes = 0;

  /** @param tell called when ordered cuts are there */
  constructor(
    private readonly materials: SolidMaterials,
    private readonly line: Pick<WorkerLine<CapCalls>, 'ask'>,
    private readonly tell: () => void,
  ) {}

  get isBusy(): boolean {
    return this.#isBusy;
  }

  /** Whether these volumes were the last to be ordered, or there was no order. */
  areOf(clips: readonly ClipVolume[]): boolean {
    return this.#order?.clips === clips;
  }

  /** Orders the cuts of tiles, unless that was the last order; until they are there the former ones show. */
  order(clips: readonly ClipVolume[], tiles: readonly CutTile[]): void {
    if (this.#order?.clips === clips && this.#order.tiles === tiles.length) return;
    const faces = inForce(clips).flatMap(facesWithin);
    if (faces.length === 0) {
      this.clear();
      this.#order = { clips, tiles: tiles.length };
      return;
    }
    const began = performance.now();
    const order = { clips, tiles: tiles.length };
    this.#order = order;
    this.#isBusy = true;
    const cut = faces.map((face) => ({ face, cuts: cutLines(face, tiles) }));
    const take = (surfaces: readonly CutSurface[]): void => {
      if (this.#order !== order) return;
      this.lastMs = performance.now() - began;
      this.#show(faces, surfaces);
    };
    const failed = (error: unknown): void => {
      if (error instanceof Overtaken || error instanceof LineClosed || this.#order !== order) return;
      console.error('cuts are not closed:', error);
      this.#show([], []);
    };
    this.#newest.run(() => this.line.ask('close', cut)).then(take, failed);
  }

  /** Nothing shows, and what was ordered isn't wanted any more. */
  clear(): void {
    this.#order = null;
    this.#isBusy = false;
    this.#empty();
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

  dispose(): void {
    this.clear();
  }

  #empty(): void {
    for (const { body } of this.#made) body.geometry.dispose();
    this.#made = [];
  }

  #show(faces: readonly ClipFace[], surfaces: readonly CutSurface[]): void {
    this.#empty();
    this.#isBusy = false;
    surfaces.forEach((own, k) => this.#add(faces[k]!, own));
    this.changes++;
    this.tell();
  }

  #add({ u, v, normal, middle }: ClipFace, { surface, outline }: CutSurface): void {
    const turn = new Matrix4().set(u.x, v.x, normal.x, 0, u.y, v.y, normal.y, 0, u.z, v.z, normal.z, 0, 0, 0, 0, 1);
    const keep = (body: Mesh | LineSegments): void => {
      body.frustumCulled = body.matrixAutoUpdate = body.matrixWorldAutoUpdate = false;
      this.#made.push({ body, at: middle, turn });
    };
    if (surface.objects.length > 0) keep(new Mesh(geometryOf(surface), this.materials.caps));
    if (outline.objects.length === 0) return;
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

/** The sides of a volume, a hair within what it keeps. */
function facesWithin(volume: ClipVolume): ClipFace[] {
  const size = volume.kind === 'box' ? Math.max(volume.half.x, volume.half.y, volume.half.z) : 1000;
  const inwards = (volume.keeps === 'inside' ? -1 : 1) * Math.max(size * WITHIN, 0.02);
  return facesOf(volume).map((face) => ({ ...face, middle: along3(face.middle, face.normal, inwards) }));
}

function geometryOf({ places, objects, materials }: CutColumns): BufferGeometry {
  const geometry = new BufferGeometry();
  const positions = new Float32Array(3 * objects.length);
  for (let i = 0; i < objects.length; i++) {
    positions[3 * i] = places[2 * i]!;
    positions[3 * i + 1] = places[2 * i + 1]!;
  }
  geometry.setAttribute('position', new BufferAttribute(positions, 3));
  geometry.setAttribute('object', new BufferAttribute(objects, 1));
  geometry.setAttribute('material', new BufferAttribute(materials, 1));
  return geometry;
}
