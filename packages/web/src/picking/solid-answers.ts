import { worldToScreen, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import { clampInto, mayRemain, type ClipVolume } from '@gull-pane/core/clip/clip-volume';
import type { ObjectMask } from '@gull-pane/core/drawing/object-mask';
import { convexHull3 } from '@gull-pane/core/geometry/hull3';
import type { Vec2, Vec3 } from '@gull-pane/core/geometry/vec';
import { screenBox } from '@gull-pane/core/pick/solid-box';
import { visibilityIn } from '@gull-pane/core/pyramid/select';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import type { Surface } from '@gull-pane/core/pick/surface';
import type { Answers, ObjectFacts, PickQuestion, PickQuestions } from './pick-questions';

/** What of a solid's pane the answers need. */
export interface SolidView {
  readonly view: () => { readonly camera: Camera; readonly viewport: Viewport };
  /** Null while nothing is drawn. */
  readonly surface: () => Surface | null;
  readonly shown: () => {
    readonly hiddenLayers: ReadonlySet<number>;
    readonly mask: ObjectMask | null;
    /** What cuts the model open. */
    readonly clips: readonly ClipVolume[];
  };
}

type Handlers = { [About in PickQuestion]: (ask: PickQuestions[About]['ask']) => PickQuestions[About]['answer'] };

/** Answers what is where in a solid, from its table of objects and the surfaces that are drawn. */
const noCoverage = { seen: 0, total: 0 } as const;
const noBox = { minX: 0, minY: 0, maxX: 0, maxY: 0 } as const;

export class SolidAnswers implements Answers {
  readonly #handlers: Handlers;

  constructor(
    private readonly table: SolidTable,
    private readonly around: SolidView,
  ) {
    this.#handlers = {
      at: ({ place }) => {
        const { camera, viewport } = around.view();
        const hit = around.surface()?.hit(camera, viewport, worldToScreen(camera, viewport, inView(camera, place)));
        return hit ? [{ entry: hit.object, distance: 0 }] : [];
      },
      within: ({ corners }) => this.#within(corners),
      sight: () => this.#sight(),
      support: ({ entries }) => this.#support(entries),
      facts: ({ entries }) => Array.from(entries, (entry) => this.#facts(entry)),
      like: ({ entries, by }) => this.#like(entries, by),
      outlines: () => ({ anchor: { x: 0, y: 0 }, chords: new Float32Array(0), boxes: new Float32Array(0) }),
      entriesOf: ({ objects }) => Uint32Array.from(objects),
      print: () => '', // told by the table itself: printOfSolid
      snap: () => [], // told by find-snaps, which waits for exact corners
      flood: () => ({ kind: 'open', gaps: [], rings: [] }),
      // what has been seen is told of flat drawings alone
      look: () => ({ ...noCoverage, news: 0 }),
      unseen: () => null,
      covered: () => ({ ...noCoverage, layers: [] }),
      unseenGrid: () => ({ columns: 0, rows: 0, unseen: new Float32Array(), box: noBox }),
      seenBits: () => new Uint8Array(),
      strays: () => ({
        strays: [],
        nearest: 0,
        farthest: 0,
        histogram: [],
        main: { minX: 0, minY: 0, maxX: 0, maxY: 0 },
      }),
      shown: () => this.#shownSupport(),
    };
  }

  hide(): void {
    // what is hidden is asked of the drawing itself
  }

  ask<About extends PickQuestion>(
    about: About,
    question: PickQuestions[About]['ask'],
  ): Promise<PickQuestions[About]['answer']> {
    return Promise.resolve().then(() => this.#handlers[about](question));
  }

  askLatest<About extends PickQuestion>(
    about: About,
    question: PickQuestions[About]['ask'],
    take: (answer: PickQuestions[About]['answer']) => void,
  ): void {
    take(this.#handlers[about](question));
  }

  #isShown(object: number): boolean {
    const { hiddenLayers, mask, clips } = this.around.shown();
    if (hiddenLayers.has(this.table.layers[object]!) || mask?.has(object)) return false;
    if (clips.length === 0) return true;
    const { centre, halfSize } = this.#box(object);
    return mayRemain(clips, centre, halfSize);
  }

  *#shownObjects(): Generator<number> {
    for (let object = 0; object < this.table.layers.length; object++) if (this.#isShown(object)) yield object;
  }

  #box(object: number): { readonly centre: Vec3; readonly halfSize: Vec3 } {
    const { boxes } = this.table;
    const [x0, y0, z0, x1, y1, z1] = boxes.slice(6 * object, 6 * object + 6) as [
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    return {
      centre: { x: (x0 + x1) / 2, y: (y0 + y1) / 2, z: (z0 + z1) / 2 },
      halfSize: { x: (x1 - x0) / 2, y: (y1 - y0) / 2, z: (z1 - z0) / 2 },
    };
  }

  #cornersOfBox(object: number): Vec3[] {
    const { centre: c, halfSize: h } = this.#box(object);
    return Array.from({ length: 8 }, (_, k) => ({
      x: c.x + (k & 1 ? h.x : -h.x),
      y: c.y + (k & 2 ? h.y : -h.y),
      z: c.z + (k & 4 ? h.z : -h.z),
    }));
  }

  /** By the boxes of objects where these are wholly in or out, else by their faces as they are seen. */
  #within([a, b]: readonly [Vec2, Vec2]): PickQuestions['within']['answer'] {
    const { camera, viewport } = this.around.view();
    const box = screenBox(a, b);
    const { left, right, top, bottom } = box;
    const [inside, touching]: [number[], number[]] = [[], []];
    const open = new Set<number>();
    for (const object of this.#shownObjects()) {
      const seen = this.#cornersOfBox(object).map((corner) => worldToScreen(camera, viewport, corner));
      const [xs, ys] = [seen.map(({ x }) => x), seen.map(({ y }) => y)];
      const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
      const isBehind = seen.some(({ x }) => Number.isNaN(x));
      if (!isBehind && !(x1 >= left && x0 <= right && y1 >= top && y0 <= bottom)) continue;
      if (!isBehind && x0 >= left && x1 <= right && y0 >= top && y1 <= bottom) {
        inside.push(object);
        touching.push(object);
      } else open.add(object);
    }
    const exact = open.size > 0 ? this.around.surface()?.within(camera, viewport, box, open) : undefined;
    if (exact) {
      inside.push(...exact.inside);
      touching.push(...exact.touching);
    }
    return { inside: Uint32Array.from(inside).sort(), touching: Uint32Array.from(touching).sort() };
  }

  #sight(): PickQuestions['sight']['answer'] {
    const { camera, viewport } = this.around.view();
    const isSeen = visibilityIn(camera, viewport);
    let nearest: { point: Vec3; distance: number } | null = null;
    for (const object of this.#shownObjects()) {
      const box = this.#box(object);
      if (isSeen({ ...box, largest: 0, weight: 0, children: [] })) return { isAnything: true, nearest: null };
      const { x, y, z } = box.centre;
      const distance = Math.hypot(x - camera.target.x, y - camera.target.y, z - camera.target.z);
      if (distance < (nearest?.distance ?? Infinity)) nearest = { point: box.centre, distance };
    }
    return { isAnything: false, nearest };
  }

  /** What a fit looks at: where clips cut, the corners of boxes as far as they remain. */
  #shownSupport(): number[] {
    const { clips } = this.around.shown();
    if (!clips.some(({ isOn }) => isOn)) return this.#support(Uint32Array.from(this.#shownObjects()));
    const points: number[] = [];
    for (const object of this.#shownObjects())
      for (const corner of this.#cornersOfBox(object)) {
        const { x, y, z } = clampInto(clips, corner);
        points.push(x, y, z);
      }
    return points.length > 3000 ? [...convexHull3(points)] : points;
  }

  /** The exact corners where the surfaces are drawn; of what isn't, those of its box. */
  #support(entries: Uint32Array): number[] {
    const drawn = entries.length <= MOST_EXACT ? this.around.surface()?.cornersOf(new Set(entries)) : undefined;
    const points = drawn ?? [];
    if (points.length === 0)
      for (const object of entries) for (const { x, y, z } of this.#cornersOfBox(object)) points.push(x, y, z);
    return points.length > 3000 ? [...convexHull3(points)] : points;
  }

  #facts(entry: number): ObjectFacts {
    const { layers, names } = this.table;
    return {
      entry,
      object: entry,
      kind: 'solid',
      length: null,
      layer: layers[entry] ?? 0,
      name: names[entry] ?? '',
    };
  }

  #like(entries: Uint32Array, by: 'kind' | 'layer' | 'others'): Uint32Array {
    const given = new Set(entries);
    const layers = new Set(Array.from(entries, (entry) => this.table.layers[entry]));
    const isMeant = (object: number): boolean =>
      by === 'kind' || (by === 'layer' ? layers.has(this.table.layers[object]) : !given.has(object));
    return Uint32Array.from([...this.#shownObjects()].filter(isMeant));
  }
}

/** Of more objects than this a frame goes by their boxes. */
const MOST_EXACT = 500;

/** A place in the plane through the target: questions of plans have no height. */
function inView(camera: Camera, place: Vec2 & { readonly z?: number }): Vec3 {
  return { x: place.x, y: place.y, z: place.z ?? camera.target.z };
}
