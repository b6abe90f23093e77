import { worldToScreen, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import { clampInto, mayRemain, type ClipVolume } from '@gull-pane/core/clip/clip-volume';
import type { ObjectMask } from '@gull-pane/core/drawing/object-mask';
import { convexHull3 } from '@gull-pane/core/geometry/hull3';
import type { Vec2, Vec3 } from '@gull-pane/core/geometry/vec';
import { screenBox } from '@gull-pane/core/pick/solid-box';
import { SolidCoverage } from '@gull-pane/core/seen/solid-coverage';
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
  /** The source's coordinates of an object, x, y, z triples; null if they can't be had. */
  readonly exact: (object: number) => Promise<readonly number[] | null>;
}

type OrLater<Answer> = Answer | Promise<Answer>;
type Handlers = {
  [About in PickQuestion]: (ask: PickQuestions[About]['ask']) => OrLater<PickQuestions[About]['answer']>;
};

/** Between lines of sight that look what is seen, CSS px. */
const SIGHT_STEP_PX = 24;
/** So long they are cast before the page has its turn, ms. */
const SLICE_MS = 5;

/** Answers what is where in a solid, from its table of objects and the surfaces that are drawn. */
const noBox = { minX: 0, minY: 0, maxX: 0, maxY: 0 } as const;

export class SolidAnswers implements Answers {
  readonly #handlers: Handlers;
  readonly #coverage: SolidCoverage;

  constructor(
    private readonly table: SolidTable,
    private readonly around: SolidView,
  ) {
    this.#coverage = new SolidCoverage(table);
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
      look: ({ readable }) => this.#look(readable.detailPx),
      unseen: ({ at, readable }) => this.#unseen(at, readable.detailPx),
      covered: () => ({
        ...this.#coverage.covered,
        layers: [...this.#coverage.byLayer()].map(([layer, covered]) => ({ layer, ...covered })),
        sheets: [],
      }),
      // models have no paper to be hatched
      unseenGrid: () => ({ columns: 0, rows: 0, unseen: new Float32Array(), box: noBox }),
      seenBits: ({ bits }) => {
        if (bits) this.#coverage.bits = bits;
        return this.#coverage.bits;
      },
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
    void Promise.resolve(this.#handlers[about](question)).then(take);
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

  /** Sees what lines of sight meet: on a grid over the pane, and towards the middle of whatever hasn't been met so. */
  async #look(detailPx: number): Promise<PickQuestions['look']['answer']> {
    const { camera, viewport } = this.around.view();
    const surface = this.around.surface();
    let news = 0;
    let until = performance.now() + SLICE_MS;
    /** @returns whether the view is still the same */
    const rest = async (): Promise<boolean> => {
      if (performance.now() < until) return true;
      await new Promise((resolve) => setTimeout(resolve));
      until = performance.now() + SLICE_MS;
      return this.around.view().camera === camera;
    };
    const cast = (at: Vec2): void => {
      const object = surface?.hit(camera, viewport, at)?.object;
      if (object === undefined || this.#coverage.isSeen(object)) return;
      if (this.#sizePx(object, camera, viewport) >= detailPx && this.#coverage.see(object)) news++;
    };
    for (let y = SIGHT_STEP_PX / 2; y < viewport.heightPx; y += SIGHT_STEP_PX)
      for (let x = SIGHT_STEP_PX / 2; x < viewport.widthPx; x += SIGHT_STEP_PX) {
        if (!(await rest())) return { ...this.#coverage.covered, news };
        cast({ x, y });
      }
    for (const object of this.#shownObjects()) {
      if (this.#coverage.isSeen(object) || this.#sizePx(object, camera, viewport) < detailPx) continue;
      const { x, y } = worldToScreen(camera, viewport, this.#box(object).centre);
      if (!(x >= 0 && y >= 0 && x < viewport.widthPx && y < viewport.heightPx)) continue;
      if (!(await rest())) break;
      cast({ x, y });
    }
    return { ...this.#coverage.covered, news };
  }

  /** The longer side of an object's box on the screen, CSS px. */
  #sizePx(object: number, camera: Camera, viewport: Viewport): number {
    const seen = this.#cornersOfBox(object).map((corner) => worldToScreen(camera, viewport, corner));
    const [xs, ys] = [seen.map(({ x }) => x), seen.map(({ y }) => y)];
    return Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys)) || 0;
  }

  #unseen(at: Vec3, detailPx: number): PickQuestions['unseen']['answer'] {
    const object = this.#coverage.nearestUnseen(at, (one) => this.#isShown(one));
    if (object === null) return null;
    const { x, y, z } = this.#box(object).halfSize;
    const corners = this.#cornersOfBox(object).flatMap((corner) => [corner.x, corner.y, corner.z]);
    return { corners, readableAt: (2 * Math.max(x, y, z)) / detailPx };
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
  #shownSupport(): OrLater<number[]> {
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

  /** The exact corners, fetched of a few objects that aren't loaded; of very many the corners of their boxes. */
  async #support(entries: Uint32Array): Promise<number[]> {
    const points: number[] = [];
    const surface = this.around.surface();
    const isFew = entries.length <= MOST_EXACT;
    const loaded = (isFew && surface?.loadedOf(new Set(entries))) || new Set<number>();
    if (surface && loaded.size > 0) for (const value of surface.cornersOf(loaded)) points.push(value);
    const others = entries.filter((object) => !loaded.has(object));
    const asked = others.length <= MOST_FETCHED ? Array.from(others, (object) => this.around.exact(object)) : [];
    const fetched = await Promise.all(asked);
    others.forEach((object, at) => {
      const own = fetched[at];
      if (own && own.length > 0) for (const value of own) points.push(value);
      else for (const { x, y, z } of this.#cornersOfBox(object)) points.push(x, y, z);
    });
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
/** No more than these are fetched for a frame. */
const MOST_FETCHED = 24;

/** A place in the plane through the target: questions of plans have no height. */
function inView(camera: Camera, place: Vec2 & { readonly z?: number }): Vec3 {
  return { x: place.x, y: place.y, z: place.z ?? camera.target.z };
}
