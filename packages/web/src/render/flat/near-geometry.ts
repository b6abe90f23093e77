import { LineSegments, Mesh, type BufferGeometry, type Object3D } from 'three';
import { clipRing, type Box2 } from '@gull-pane/core/geometry/clip';
import { Growable } from '@gull-pane/core/geometry/growable';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { StyleRun } from '@gull-pane/core/pyramid/tile-format';
import { MeshBuilder, buildHairlines, buildStrokes } from '@gull-pane/core/stroke/stroke-mesh';
import type { FillBody, FillContent } from './fill-body';
import { builtGeometry, still, type LineBody } from './line-body';
import type { DrawingMaterials } from './materials';
import type { LineLook } from './view-rules';

/** A tile with the forms of its lines and areas that are to be drawn. */
export interface NearTile {
  readonly origin: Vec3;
  readonly body: LineBody;
  readonly fills: FillBody;
}

/**
 * The parts near the view of tiles that are much larger than it. Their vertices are too coarse in single precision and
 * mostly out of sight: they are clipped in doubles and placed anew about the middle of the view, at every move.
 */
export class NearGeometry {
  #objects: Object3D[] = [];
  segments = 0;
  triangles = 0;

  constructor(private readonly materials: DrawingMaterials) {}

  /**
   * @param anchor the middle of the view, drawing units
   * @param clip what is wanted about it
   * @param lookOf how each style is drawn
   */
  build(
    tiles: readonly NearTile[],
    anchor: Vec3,
    clip: Box2,
    lookOf: (style: number) => LineLook,
  ): readonly Object3D[] {
    this.dispose();
    if (tiles.length === 0) return this.#objects;
    const fill = new Columns();
    const lines = {
      hairline: new Columns(),
      dashedHairline: new Columns(),
      stroke: new Columns(),
      dashedStroke: new Columns(),
    };
    for (const { origin, body, fills } of tiles) {
      const placement = { shiftX: origin.x - anchor.x, shiftY: origin.y - anchor.y, clip };
      for (const run of body.content.lineRuns) {
        const look = lookOf(run.style);
        if (look === 'hidden' || !reaches(run, placement)) continue;
        const build = look === 'hairline' || look === 'dashedHairline' ? buildHairlines : buildStrokes;
        build(body.source, run, placement, lines[look].builder);
        lines[look].take(body.content.styles, body.orders);
      }
      for (const run of fills.content.triangleRuns) {
        if (lookOf(run.style) === 'hidden') continue;
        clipTriangles(fills.content, run, placement, fill.builder);
        fill.take(fills.content.styles, fills.orders);
      }
    }
    const { materials } = this;
    const add = (columns: Columns, make: (geometry: BufferGeometry) => Object3D): void => {
      if (columns.builder.indices.length > 0) this.#objects.push(still(make(columns.geometry())));
    };
    add(fill, (geometry) => new Mesh(geometry, materials.fill));
    add(lines.hairline, (geometry) => new LineSegments(geometry, materials.hairlines[0]));
    add(lines.dashedHairline, (geometry) => new LineSegments(geometry, materials.hairlines[1]));
    add(lines.stroke, (geometry) => new Mesh(geometry, materials.strokes[0]));
    add(lines.dashedStroke, (geometry) => new Mesh(geometry, materials.strokes[1]));
    const count = ({ builder }: Columns): number => builder.indices.length;
    this.segments =
      (count(lines.hairline) + count(lines.dashedHairline)) / 2 + (count(lines.stroke) + count(lines.dashedStroke)) / 6;
    this.triangles = count(fill) / 3;
    return this.#objects;
  }

  dispose(): void {
    for (const object of this.#objects) (object as Mesh).geometry.dispose();
    this.#objects = [];
    this.segments = this.triangles = 0;
  }
}

const reaches = (
  { minX, minY, maxX, maxY }: Box2,
  { shiftX, shiftY, clip }: { shiftX: number; shiftY: number; clip: Box2 },
): boolean =>
  minX + shiftX <= clip.maxX && maxX + shiftX >= clip.minX && minY + shiftY <= clip.maxY && maxY + shiftY >= clip.minY;

/** Built vertices with their style and order, gathered over several tiles. */
class Columns {
  readonly builder = new MeshBuilder();
  readonly #styles = new Growable(Uint16Array);
  readonly #orders = new Growable(Float32Array);

  /** Takes over style and order of the vertices that were built since the last call. */
  take(styles: Uint16Array, orders: Float32Array): void {
    const { source } = this.builder;
    for (let i = this.#styles.length; i < source.length; i++) {
      this.#styles.push(styles[source.at(i)]!);
      this.#orders.push(orders[source.at(i)]!);
    }
  }

  geometry(): BufferGeometry {
    return builtGeometry(this.builder, this.#styles.view().slice(), this.#orders.view().slice());
  }
}

function clipTriangles(
  { positions, low, triangles }: FillContent,
  run: StyleRun,
  { shiftX, shiftY, clip }: { shiftX: number; shiftY: number; clip: Box2 },
  out: MeshBuilder,
): void {
  for (let at = run.start; at < run.start + run.count; at += 3) {
    const ring: number[] = [];
    for (let corner = 0; corner < 3; corner++) {
      const vertex = triangles[at + corner]!;
      const [lowX, lowY] = low ? [low[2 * vertex]!, low[2 * vertex + 1]!] : [0, 0];
      ring.push(shiftX + positions[3 * vertex]! + lowX, shiftY + positions[3 * vertex + 1]! + lowY);
    }
    const inside = clipRing(ring, clip);
    const source = triangles[at]!;
    const first = out.vertices;
    for (let i = 0; i < inside.length; i += 2) out.add(inside[i]!, inside[i + 1]!, 0, 0, 0, source);
    for (let i = 2; 2 * i < inside.length; i++) out.indices.append([first, first + i - 1, first + i]);
  }
}
