/** Answers what lies where, exactly, off the page's thread. What it needs is fetched when it is first asked. */
import { flattenPath, within } from '@gull-pane/core/drawing/flatten';
import { shifted } from '@gull-pane/core/pyramid/detail';
import { ShapeChunk } from '@gull-pane/core/pick/object-chunk';
import { MOST_LAYERS, ObjectIndex, decodeObjectColumns, objectKinds } from '@gull-pane/core/pick/object-index';
import { Picker } from '@gull-pane/core/pick/picker';
import { boxAround } from '@gull-pane/core/pick/region';
import { lengthOf } from '@gull-pane/core/pick/shape-tests';
import type { Coverage } from '@gull-pane/core/seen/coverage';
import { findStrays } from '@gull-pane/core/spatial/strays';
import { answerCalls } from '../basics/answer-calls';
import type { Hiding, ObjectFacts, Outlines, PickCalls, PickQuestion, PickQuestions } from './pick-questions';

/** Of the files of shapes so many bytes are kept, those that were used last. */
const KEPT_BYTES = 1 << 24;
/** Chords that are drawn over the picture at most; the rest of what is picked is told by its boxes. */
const MOST_CHORDS = 12_000;
const MOST_BOXES = 12_000;

let address = '';
let picker: Promise<Picker> | null = null;
/** What the next questions leave out: each pane hides its own. */
let hiding: Hidden = { layers: new Set(), objects: null };
/** The last used last. */
const chunks = new Map<number, Promise<ShapeChunk>>();
const chunkBytes = new Map<number, number>();

type Hidden = Omit<Hiding, 'layers'> & { readonly layers: ReadonlySet<number> };

async function answer<About extends PickQuestion>(
  about: About,
  question: PickQuestions[About]['ask'],
): Promise<PickQuestions[About]['answer']> {
  const hidden = hiding; // as it is now, not as it will be once the index has arrived
  try {
    picker ??= open();
    const own = await picker;
    return await answers[about](own, question, shownOf(own, hidden));
  } catch (error) {
    picker = null; // tried again with the next question
    throw error;
  }
}

async function bytesAt(name: string): Promise<Uint8Array> {
  const response = await fetch(`${address}${name}`);
  if (!response.ok) throw new Error(`status ${response.status}`);
  return new Uint8Array(await response.arrayBuffer());
}

async function open(): Promise<Picker> {
  const index = new ObjectIndex(decodeObjectColumns(await bytesAt('objects.index')));
  return new Picker(index, (chunk) => {
    const known = chunks.get(chunk) ?? fetchChunk(chunk);
    chunks.delete(chunk);
    chunks.set(chunk, known);
    return known;
  });
}

async function fetchChunk(chunk: number): Promise<ShapeChunk> {
  try {
    const bytes = await bytesAt(`${chunk}.objects`);
    const shapes = new ShapeChunk(bytes);
    chunkBytes.set(chunk, bytes.length);
    let sum = 0;
    for (const length of chunkBytes.values()) sum += length;
    for (const oldest of chunks.keys()) {
      if (sum <= KEPT_BYTES) break;
      sum -= chunkBytes.get(oldest) ?? 0;
      chunkBytes.delete(oldest);
      chunks.delete(oldest);
    }
    return shapes;
  } catch (error) {
    chunks.delete(chunk); // asked for again with the next question
    throw error;
  }
}

type IsShown = (entry: number) => boolean;

const shownOf =
  ({ index }: Picker, { layers, objects }: Hidden): IsShown =>
  (entry) =>
    !layers.has(index.columns.layers[entry]!) && !objects?.[index.columns.objects[entry]!];

const shownEntries = (own: Picker, isShown: IsShown): Uint32Array<ArrayBuffer> =>
  Uint32Array.from({ length: own.index.length }, (_, entry) => entry).filter(isShown);

type Answers = {
  readonly [About in PickQuestion]: (
    picker: Picker,
    question: PickQuestions[About]['ask'],
    isShown: IsShown,
  ) => Promise<PickQuestions[About]['answer']>;
};

const answers: Answers = {
  at: (own, { place, radius }, isShown) => own.at(place, radius, isShown),
  within: async (own, { region }, isShown) => {
    const { inside, touching } = await own.within(region, isShown);
    return { inside: Uint32Array.from(inside), touching: Uint32Array.from(touching) };
  },
  sight: async (own, { region }, isShown) => {
    const isAnything = await own.isAnythingIn(region, isShown);
    return { isAnything, nearest: isAnything ? null : await own.nearest(region.middle, isShown) };
  },
  support: (own, { entries }) => own.supportOf([...entries]),
  facts: async (own, { entries, withLength }) => {
    const { objects, kinds, layers } = own.index.columns;
    const lengths = new Map<number, number>();
    if (withLength) await own.shapes([...entries], (entry, shape) => lengths.set(entry, lengthOf(shape)));
    return Array.from(entries, (entry): ObjectFacts => ({
      entry,
      object: objects[entry]!,
      layer: layers[entry]!,
      kind: objectKinds[kinds[entry]!]!,
      length: lengths.get(entry) ?? null,
    }));
  },
  like: (own, { entries, by }, isShown) => {
    const { kinds, layers } = own.index.columns;
    const given = new Set(entries);
    const column = by === 'kind' ? kinds : layers;
    const wanted = new Uint8Array(MOST_LAYERS + 1);
    for (const entry of entries) wanted[column[entry]!] = 1;
    const found: number[] = [];
    for (let entry = 0; entry < own.index.length; entry++) {
      const isAlike = by === 'others' ? !given.has(entry) : wanted[column[entry]!] === 1;
      if (isAlike && isShown(entry)) found.push(entry);
    }
    return Promise.resolve(Uint32Array.from(found));
  },
  outlines: (own, { entries, region, unitsPerPx }, isShown) => outlinesOf(own, isShown, entries, region, unitsPerPx),
  entriesOf: (own, { objects }) => {
    const wanted = new Set(objects);
    const found: number[] = [];
    own.index.columns.objects.forEach((object, entry) => {
      if (wanted.has(object)) found.push(entry);
    });
    return Promise.resolve(Uint32Array.from(found));
  },
  print: async (own, { region, layers }) => (await import('./content-of-region')).printOf(own, region, layers),
  snap: async (own, { at, radius, from, kinds }, isShown) => {
    const { flatSnaps } = await import('@gull-pane/core/snap/flat-snaps');
    const paths = await own.pathsNear(at, radius, isShown, MOST_SNAPPED);
    return flatSnaps(paths, { at, radius, from, kinds: new Set(kinds) });
  },
  flood: async (own, question, isShown) => (await import('./flood-around')).floodAround(own, question, isShown),
  strays: (own, _, isShown) => {
    const { boxes, origin } = own.index.columns;
    return Promise.resolve(findStrays(boxes, shownEntries(own, isShown), origin));
  },
  look: async (own, { region, unitsPerPx, readable }, isShown) => {
    const coverage = await coverageOf(own);
    const news = coverage.look(region, unitsPerPx, readable, isShown);
    return { ...coverage.covered, news };
  },
  unseen: async (own, { at, readable }, isShown) => {
    const coverage = await coverageOf(own);
    const next = coverage.nearestUnseen(at, isShown);
    if (!next) return null;
    const { minX, minY, maxX, maxY } = next.box;
    return { corners: [minX, minY, 0, maxX, maxY, 0], readableAt: coverage.readableAt(next.entry, readable) };
  },
  covered: async (own, { sheets }) => {
    const coverage = await coverageOf(own);
    const layers = [...coverage.byLayer()].map(([layer, covered]) => ({ layer, ...covered }));
    return { ...coverage.covered, layers, sheets: coverage.bySheet(sheets) };
  },
  unseenGrid: async (own, { most }) => (await coverageOf(own)).grid(most),
  seenBits: async (own, { bits }) => {
    const coverage = await coverageOf(own);
    if (bits) coverage.bits = bits;
    return coverage.bits;
  },
  shown: (own, _, isShown) => own.supportOf([...shownEntries(own, isShown)]),
};

/** What has been seen of the drawing. */
let coverage: Promise<Coverage> | null = null;
const coverageOf = ({ index }: Picker): Promise<Coverage> =>
  (coverage ??= import('@gull-pane/core/seen/coverage').then((code) => new code.Coverage(index)));

/** Objects that a point may be drawn to: where more lie that close, a closer view is wanted. */
const MOST_SNAPPED = 400;

async function outlinesOf(
  own: Picker,
  isShown: IsShown,
  entries: Uint32Array,
  region: PickQuestions['outlines']['ask']['region'],
  unitsPerPx: number,
): Promise<Outlines> {
  const { boxes: all, origin } = own.index.columns;
  const wanted = new Set(entries);
  const seen: number[] = [];
  const around = boxAround(region, Math.max(region.halfWidth, region.halfHeight));
  own.index.search(around, (entry) => {
    if (wanted.has(entry) && isShown(entry)) seen.push(entry);
    return false;
  });
  const sizeOf = (entry: number): number =>
    Math.max(all[4 * entry + 2]! - all[4 * entry]!, all[4 * entry + 3]! - all[4 * entry + 1]!);
  // what is large on the screen is drawn as it is, what is tiny or too much as its box
  seen.sort((a, b) => sizeOf(b) - sizeOf(a));
  const exact = seen.filter((entry) => sizeOf(entry) > 2 * unitsPerPx).slice(0, MOST_CHORDS);
  const anchor = region.middle;
  const chords: number[] = [];
  const isTooMuch = new Set<number>();
  await own.shapes(exact, (entry, { path }) => {
    if (chords.length > 4 * MOST_CHORDS) {
      isTooMuch.add(entry);
      return;
    }
    let [x0, y0] = [0, 0];
    const near = shifted(path, anchor);
    const own = { ...around, minX: around.minX - anchor.x, maxX: around.maxX - anchor.x };
    const local = { ...own, minY: around.minY - anchor.y, maxY: around.maxY - anchor.y };
    flattenPath(
      near,
      {
        move: (x, y) => {
          [x0, y0] = [x, y];
        },
        line: (x, y) => {
          chords.push(x0, y0, x, y);
          [x0, y0] = [x, y];
        },
        close: () => undefined,
      },
      within(0.3 * unitsPerPx, local),
    );
  });
  const isExact = new Set(exact);
  const boxes: number[] = [];
  for (const entry of seen) {
    if (boxes.length >= 4 * MOST_BOXES) break;
    if (isExact.has(entry) && !isTooMuch.has(entry)) continue;
    for (const k of [0, 2]) {
      boxes.push(all[4 * entry + k]! + origin.x - anchor.x, all[4 * entry + k + 1]! + origin.y - anchor.y);
    }
  }
  return { anchor, chords: Float32Array.from(chords), boxes: Float32Array.from(boxes) };
}

answerCalls<PickCalls>({
  ...(Object.fromEntries(
    (Object.keys(answers) as PickQuestion[]).map((about) => [about, (question: never) => answer(about, question)]),
  ) as {
    readonly [About in PickQuestion]: (
      question: PickQuestions[About]['ask'],
    ) => Promise<PickQuestions[About]['answer']>;
  }),
  open(told) {
    address = told;
  },
  hide({ layers, objects }) {
    hiding = { layers: new Set(layers), objects };
  },
});
