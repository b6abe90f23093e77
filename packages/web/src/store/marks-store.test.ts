import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { worldPlane } from '@gull-pane/core/plane/work-plane';
import type { ChangeMarksDto, MarkDto } from '@gull-pane/protocol/marks';
import { createMarksStore, type MarksStore } from './marks-store';
import { usePreferences } from './preferences-store';
import { useSaver } from './saver';

/** A server that keeps marks as ours does. */
let kept: Map<string, MarkDto>;
let changes: ChangeMarksDto[];
let store: MarksStore;

beforeEach(async () => {
  kept = new Map();
  changes = [];
  vi.stubGlobal('fetch', (_path: string, init: RequestInit = {}) => {
    if (init.method !== 'PATCH') return Promise.resolve(Response.json([...kept.values()]));
    const change = JSON.parse(init.body as string) as ChangeMarksDto;
    changes.push(change);
    for (const id of change.remove) kept.delete(id);
    for (const mark of change.put) kept.set(mark.id, mark);
    return Promise.resolve(new Response(null, { status: 204 }));
  });
  store = createMarksStore('d');
  await store.getState().load();
});
afterEach(() => {
  vi.unstubAllGlobals();
});

const at = (x: number, y: number) => ({ x, y, z: 0 });
const saved = () => vi.waitFor(() => expect(useSaver.getState().waiting).toBe(0));
const line = (x: number): void => void store.getState().draw('line', [at(x, 0), at(x, 9)], worldPlane);
const places = () => store.getState().marks.map(({ points }) => points[0]!.x);

describe('the marks of a drawing', () => {
  it('look as new marks look, and are on the server as they are here', async () => {
    usePreferences.getState().set({ markStyle: { layer: 'Clashes', colour: '#112233', line: 'dotted', widthMm: 0.7 } });
    line(1);
    line(2);
    await saved();
    expect([...kept.values()].map(({ layer, colour, points }) => [layer, colour, points[0]!.x])).toEqual([
      ['Clashes', '#112233', 1],
      ['Clashes', '#112233', 2],
    ]);
    expect(store.getState()).toMatchObject({ undoes: 'line', redoes: null });
  });

  it('are moved, copied, turned and restyled together, each undone by its name', async () => {
    line(1);
    line(2);
    const ids = store.getState().marks.map(({ id }) => id);
    const own = store.getState();
    own.move(ids, at(10, 0), false);
    expect(places()).toEqual([11, 12]);
    own.move(ids, at(10, 0), true);
    expect(places()).toEqual([11, 12, 21, 22]);
    expect(store.getState().chosen.size).toBe(2);
    expect(store.getState().undoes).toBe('copy 2 marks');
    own.turn(ids, worldPlane, at(11, 0), at(12, 0), at(11, 5));
    expect(store.getState().marks[0]!.points[1]!.x).toBeCloseTo(2, 9);
    own.restyle(ids, { colour: '#00ff00' });
    for (const name of ['change 2 marks', 'turn 2 marks', 'copy 2 marks', 'move 2 marks']) {
      expect(store.getState().undoes).toBe(name);
      own.undo();
    }
    expect(places()).toEqual([1, 2]);
    expect(store.getState().chosen.size).toBe(0);
    own.redo();
    expect(places()).toEqual([11, 12]);
    await saved();
    expect([...kept.values()].map(({ points }) => points[0]!.x)).toEqual([11, 12]);
    // one request an edit, with all its marks
    expect(changes.map(({ put, remove }) => [put.length, remove.length])).toEqual([
      [1, 0],
      [1, 0],
      [2, 0],
      [2, 0],
      [2, 0],
      [2, 0],
      [2, 0],
      [2, 0],
      [0, 2],
      [2, 0],
      [2, 0],
    ]);
  });

  it('ask for the text of a note before it is one', () => {
    const own = store.getState();
    own.draw('note', [at(0, 0), at(5, 5)], worldPlane);
    expect(store.getState().asksText).not.toBeNull();
    expect(store.getState().marks).toEqual([]);
    own.write('  ');
    expect(store.getState().marks).toEqual([]);
    own.draw('note', [at(0, 0), at(5, 5)], worldPlane);
    own.write('Check the flange ');
    expect(store.getState().marks).toMatchObject([{ kind: 'note', text: 'Check the flange' }]);
  });

  it('make nothing of places that make nothing', () => {
    const own = store.getState();
    expect(own.draw('line', [at(1, 1), at(1, 1)], worldPlane)).toBe(false);
    expect(own.draw('circle-three', [at(0, 0), at(1, 1), at(2, 2)], worldPlane)).toBe(false);
    expect(store.getState().marks).toEqual([]);
  });

  it('are in step again after a time without the server, and what was done before can be undone', async () => {
    line(1);
    line(2);
    await saved();
    const [first] = [...kept.values()];
    kept.set(first!.id, { ...first!, points: [at(5, 0), at(5, 9)] });
    await store.getState().load();
    expect(places()).toEqual([5, 2]);
    expect(store.getState().undoes).toBe('line'); // the second one
    store.getState().undo();
    expect(places()).toEqual([5]);
    expect(store.getState().undoes).toBeNull();
  });

  it('hear what other windows do, but not what this one has told', async () => {
    line(1);
    await saved();
    const [change] = changes;
    const own = store.getState();
    own.heard({ put: [], remove: [change!.put[0]!.id] }, change!.by);
    expect(places()).toEqual([1]);
    const theirs = { ...change!.put[0]!, points: [at(7, 7), at(8, 8)] };
    own.heard({ put: [theirs], remove: [] }, crypto.randomUUID());
    expect(places()).toEqual([7]);
    expect(store.getState().undoes).toBeNull();
  });
});
