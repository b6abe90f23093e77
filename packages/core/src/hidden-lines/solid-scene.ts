import { facesOf, inForce, mayRemain, remainsWhole, type ClipFace, type ClipVolume } from '../clip/clip-volume.ts';
import { capOf, cutTriangles, linesInSide, ringsOf } from '../clip/section.ts';
import { add3, along3, dot3, length3, scale3, sub3, type Vec3 } from '../geometry/vec.ts';
import { hatchLines } from '../planar/rings.ts';
import type { Material } from '../solid/solid-model.ts';
import { RUN, type DecodedSolidTile } from '../solid/solid-tile.ts';
import { cutterOf, type Cutter } from './cut-pieces.ts';
import { SeenScene, type ToPicture } from './seen-scene.ts';
import { litColour } from './surface-light.ts';

/** How a model is looked at. */
export interface SolidSightLine {
  readonly toPicture: ToPicture;
  readonly right: Vec3;
  readonly up: Vec3;
  readonly back: Vec3;
  readonly target: Vec3;
  /** From the target to the eye, drawing units; infinite in parallel views. */
  readonly eyeDistance: number;
}

export interface SolidSceneRules {
  readonly sight: SolidSightLine;
  readonly materials: readonly Material[];
  /** What cuts the model open. */
  readonly volumes: readonly ClipVolume[];
  readonly isShown: (object: number) => boolean;
  /** What surfaces look like; `none` where only lines are drawn. */
  readonly surfaces: 'none' | 'plain' | 'gloss';
  /** Whether surfaces hide what is behind them, so that they are needed though they aren't shaded. */
  readonly hide: boolean;
  /** Between lines of a hatch, about; drawing units. */
  readonly hatchSpacing: number;
}

/** What a line or a point of a scene belongs to. */
export interface SceneTag {
  readonly object: number;
  readonly material: number;
  /** An edge of a body, the outline of a cut, a line of its hatch, a point. */
  readonly kind: 'edge' | 'cut' | 'hatch' | 'point';
  /** Red, green, blue, 0 … 255; of points. */
  readonly colour?: readonly [number, number, number];
}

/** So near to the eye nothing is drawn, as a share of the distance to the target. */
const NEAREST = 1e-3;
/** So far a unit normal of three bytes may be from the true one. */
const NORMAL_ERROR = (0.5 * Math.sqrt(3)) / 127;
/** Cuts stand so far within what is kept, as a share of the volume's size, so that the volume itself doesn't cut them. */
const WITHIN = 2e-5;
/** Ends of cut lines are one if they are nearer than this, drawing units: single precision in tiles. */
const TOLERANCE = 0.05;
/** How much of its material's colour a cut has; the rest is white. */
const CUT_TINT = 0.3;

interface Cut {
  readonly tag: Omit<SceneTag, 'kind'>;
  readonly lines: number[];
}

/** Puts tiles of a model together to what is seen of them. */
export class SolidScene {
  readonly scene: SeenScene;
  readonly tags: SceneTag[] = [];
  readonly #cutters: readonly Cutter[];
  readonly #faces: readonly ClipFace[];
  readonly #cuts: readonly Map<string, Cut>[];
  readonly #volumes: readonly ClipVolume[];

  constructor(private readonly rules: SolidSceneRules) {
    const { sight, surfaces } = rules;
    this.#volumes = inForce(rules.volumes);
    this.#cutters = this.#volumes.map(cutterOf);
    this.#faces = this.#volumes.flatMap((volume) => {
      const size = volume.kind === 'box' ? Math.max(volume.half.x, volume.half.y, volume.half.z) : 1000;
      const inwards = (volume.keeps === 'inside' ? -1 : 1) * Math.max(size * WITHIN, 0.02);
      return facesOf(volume).map((face) => ({ ...face, middle: along3(face.middle, face.normal, inwards) }));
    });
    this.#cuts = this.#faces.map(() => new Map<string, Cut>());
    this.scene = new SeenScene(sight.toPicture, behindEye(sight), surfaces !== 'none');
  }

  /** @param centre, halfSize of a box about the tile, along the drawing's axes */
  add(
    tile: DecodedSolidTile,
    origin: Vec3,
    { centre, halfSize }: { readonly centre: Vec3; readonly halfSize: Vec3 },
  ): void {
    if (!mayRemain(this.#volumes, centre, halfSize)) return;
    const cutters = remainsWhole(this.#volumes, centre, halfSize) ? [] : this.#cutters;
    let [index, end, point] = [0, 0, 0];
    for (let run = 0; run < tile.runs.length; run += RUN) {
      const [object, material, , toIndex, toEnd, toPoint] = [0, 1, 2, 3, 4, 5].map((k) => tile.runs[run + k]!) as [
        number,
        number,
        number,
        number,
        number,
        number,
      ];
      if (this.rules.isShown(object)) {
        if (this.rules.surfaces !== 'none' || this.rules.hide)
          this.#surfaces(tile, origin, [index, toIndex], material, cutters);
        this.#edges(tile, origin, [end, toEnd], { object, material, kind: 'edge' }, cutters);
        this.#points(tile, origin, [point, toPoint], { object, material, kind: 'point' }, cutters);
        if (cutters.length > 0) this.#cut(tile, origin, [index, toIndex], { object, material });
      }
      [index, end, point] = [toIndex, toEnd, toPoint];
    }
  }

  /** All tiles are there: closes what is cut open. */
  finish(): void {
    this.#faces.forEach((face, k) => {
      for (const { tag, lines } of this.#cuts[k]!.values()) this.#close(face, tag, lines);
    });
  }

  #surfaces(
    { positions, normals, triangles }: DecodedSolidTile,
    origin: Vec3,
    [from, to]: readonly [number, number],
    material: number,
    cutters: readonly Cutter[],
  ): void {
    const numbers: number[] = [];
    const own = this.rules.materials[material] ?? PLAIN;
    for (let i = from; i < to; i += 3) {
      numbers.length = 0;
      for (let k = 0; k < 3; k++) {
        const vertex = triangles[i + k]!;
        const place = placeOf(positions, vertex, origin);
        const colour =
          this.rules.surfaces === 'none'
            ? NO_COLOUR
            : this.#lit(own, place, {
                x: normals[4 * vertex]!,
                y: normals[4 * vertex + 1]!,
                z: normals[4 * vertex + 2]!,
              });
        numbers.push(place.x, place.y, place.z, colour[0], colour[1], colour[2]);
      }
      this.scene.triangle(numbers, cutters);
    }
  }

  #lit(material: Material, place: Vec3, normal: Vec3): readonly [number, number, number] {
    const { right, up, back } = this.rules.sight;
    const inView = (v: Vec3): Vec3 => {
      const long = length3(v) || 1;
      return { x: dot3(v, right) / long, y: dot3(v, up) / long, z: dot3(v, back) / long };
    };
    return litColour(material, inView(normal), inView(this.#towardsEye(place)), this.rules.surfaces === 'gloss');
  }

  #towardsEye(place: Vec3): Vec3 {
    const { back, target, eyeDistance } = this.rules.sight;
    return eyeDistance === Infinity ? back : sub3(along3(target, back, eyeDistance), place);
  }

  /** Edges between a face that is turned to the viewer and one that isn't; those of sharp edges always are. */
  #edges(
    { edgePositions, edgeNormals }: DecodedSolidTile,
    origin: Vec3,
    [from, to]: readonly [number, number],
    own: SceneTag,
    cutters: readonly Cutter[],
  ): void {
    let tag = -1;
    for (let end = from; end < to; end += 2) {
      const [a, b] = [placeOf(edgePositions, end, origin), placeOf(edgePositions, end + 1, origin)];
      const sight = this.#towardsEye(a);
      const long = length3(sight) || 1;
      const facing = (at: number): number =>
        (edgeNormals[at]! * sight.x + edgeNormals[at + 1]! * sight.y + edgeNormals[at + 2]! * sight.z) / (127 * long);
      const [face, other] = [facing(8 * end), facing(8 * end + 4)];
      if (face * other > 0 && Math.min(Math.abs(face), Math.abs(other)) > NORMAL_ERROR) continue;
      if (tag < 0) tag = this.tags.push(own) - 1;
      this.scene.line([a.x, a.y, a.z, b.x, b.y, b.z], tag, cutters);
    }
  }

  #points(
    { pointPositions, pointRests, pointColours }: DecodedSolidTile,
    origin: Vec3,
    [from, to]: readonly [number, number],
    own: SceneTag,
    cutters: readonly Cutter[],
  ): void {
    const known = new Map<number, number>();
    for (let point = from; point < to; point++) {
      const at = 3 * point;
      const place = add3(placeOf(pointPositions, point, origin), {
        x: pointRests[at] ?? 0,
        y: pointRests[at + 1] ?? 0,
        z: pointRests[at + 2] ?? 0,
      });
      const colour = [0, 1, 2].map((k) => pointColours[4 * point + k]!) as [number, number, number];
      const key = (colour[0] << 16) | (colour[1] << 8) | colour[2];
      let tag = known.get(key);
      if (tag === undefined) {
        tag = this.tags.push({ ...own, colour }) - 1;
        known.set(key, tag);
      }
      this.scene.point(place, tag, cutters);
    }
  }

  #cut(tile: DecodedSolidTile, origin: Vec3, range: readonly [number, number], tag: Cut['tag']): void {
    const key = `${tag.object} ${tag.material}`;
    this.#faces.forEach((face, k) => {
      const lines: number[] = [];
      cutTriangles(tile, range, origin, face, lines);
      if (lines.length === 0) return;
      const known = this.#cuts[k]!.get(key);
      if (known) for (const value of lines) known.lines.push(value);
      else this.#cuts[k]!.set(key, { tag, lines });
    });
  }

  #close(face: ClipFace, tag: Cut['tag'], lines: readonly number[]): void {
    const { middle, u, v } = face;
    const place = (x: number, y: number): Vec3 => add3(middle, add3(scale3(u, x), scale3(v, y)));
    const { colour } = this.rules.materials[tag.material] ?? PLAIN;
    const tint = [colour.r, colour.g, colour.b].map((channel) => 255 + (channel - 255) * CUT_TINT);
    const cap = capOf(lines, face, TOLERANCE);
    for (let i = 0; i + 5 < cap.length; i += 6)
      this.scene.triangle(
        [0, 2, 4].flatMap((k) => {
          const { x, y, z } = place(cap[i + k]!, cap[i + k + 1]!);
          return [x, y, z, ...tint];
        }),
        this.#cutters,
      );
    const add = (flat: readonly number[], kind: SceneTag['kind']): void => {
      const number = this.tags.push({ ...tag, kind }) - 1;
      for (let i = 0; i + 3 < flat.length; i += 4) {
        const [a, b] = [place(flat[i]!, flat[i + 1]!), place(flat[i + 2]!, flat[i + 3]!)];
        this.scene.line([a.x, a.y, a.z, b.x, b.y, b.z], number, this.#cutters);
      }
    };
    add(linesInSide(lines, face), 'cut');
    // each material is hatched in its own way, as on the screen
    const angleRad = Math.PI / 4 + (Math.PI / 6) * (tag.material % 6);
    const spacing = this.rules.hatchSpacing * (1 + 0.2 * (tag.material % 4));
    add(linesInSide(hatchLines(ringsOf(lines, TOLERANCE), angleRad, spacing), face), 'hatch');
  }
}

const NO_COLOUR = [0, 0, 0] as const;
const PLAIN: Material = { name: '', colour: { r: 128, g: 128, b: 128, a: 255 }, metalness: 0, roughness: 1 };

function placeOf(positions: Float32Array, vertex: number, { x, y, z }: Vec3): Vec3 {
  return { x: positions[3 * vertex]! + x, y: positions[3 * vertex + 1]! + y, z: positions[3 * vertex + 2]! + z };
}

/** What cuts away all that lies behind the eye, or next to it. */
function behindEye({ back, target, eyeDistance }: SolidSightLine): readonly Cutter[] {
  if (eyeDistance === Infinity) return [];
  const near = along3(target, back, eyeDistance * (1 - NEAREST));
  return [{ keeps: 'inside', halves: [{ normal: back, d: dot3(near, back) }] }];
}
