import { beforeEach, describe, expect, it, vi } from 'vitest';
import { readyTilings } from '@gull-pane/core/panes/ready-tilings';
import { MOST_PANES, panesOf } from '@gull-pane/core/panes/tiling';
import { createPanesStore, shownAreas, tiesOf, type PanesStore, type PanesSurroundings } from './panes-store';

let panes: PanesStore;
let open: Set<string>;
let around: { [Name in keyof PanesSurroundings]: ReturnType<typeof vi.fn<PanesSurroundings[Name]>> };
beforeEach(() => {
  open = new Set(['1']);
  around = {
    add: vi.fn((pane: string) => void open.add(pane)),
    drop: vi.fn((pane: string) => void open.delete(pane)),
    copyView: vi.fn(),
    fitAll: vi.fn(),
    planAndModel: vi.fn(() => Promise.resolve()),
    beforeAndAfter: vi.fn(() => Promise.resolve()),
    openIn: vi.fn(() => Promise.resolve()),
    planWithElevations: vi.fn(),
    openApart: vi.fn(),
    copyLink: vi.fn(() => Promise.resolve()),
    sharesPlace: vi.fn(() => true),
    follow: vi.fn(),
    capture: vi.fn(() => panes.getState().tiling),
    restore: vi.fn(),
  };
  panes = createPanesStore('1', around);
  panes.getState().setArea(1204, 800);
});
const state = () => panes.getState();
const all = (): string[] => panesOf(state().tiling);
const ready = (name: string) => readyTilings.find((one) => one.name === name)!.tiling;

describe('panes', () => {
  it('are split up to nine, the new one active, and closed down to one that stays', () => {
    for (let k = 1; k < MOST_PANES; k++) expect(state().split(k % 2 ? 'row' : 'column')).toBe(String(k + 1));
    expect(state().split('row')).toBeNull();
    expect(all()).toHaveLength(9);
    for (let k = 0; k < 12; k++) state().close();
    expect(all()).toHaveLength(1);
    expect([...open]).toEqual(all());
    expect(state().active).toBe(all()[0]);
  });

  it('keep the active one where there is room for fewer, and the others where there is room for more', () => {
    state().lay(ready('Four'));
    const four = all();
    state().activate(four[2]!);
    state().lay(ready('Two side by side'));
    expect(all()).toEqual([four[0], four[2]]);
    expect(state().active).toBe(four[2]);
    state().lay(ready('Nine'));
    expect(all().slice(0, 2)).toEqual([four[0], four[2]]);
    expect(around.add.mock.calls.slice(-7).every(([, like]) => like === four[2])).toBe(true);
    expect(new Set(all())).toEqual(open);
  });

  it('fill the area one at a time, and lie as before afterwards', () => {
    state().lay(ready('Two side by side'));
    const before = shownAreas(state());
    state().fill('1');
    expect(shownAreas(state()).get('1')).toEqual({ x: 0, y: 0, width: 1204, height: 800 });
    state().step(1); // another one comes to the front
    expect(state().filled).toBe(state().active);
    state().fill();
    expect(shownAreas(state())).toEqual(before);
  });

  it('lose their ties and their echo when they go, and only theirs', () => {
    state().lay(ready('Three side by side'));
    const [a, b, c] = all() as [string, string, string];
    const holds = { place: true, scale: false, direction: 'free' } as const;
    state().tie(a, b, holds);
    state().tie(b, c, holds);
    state().tie(a, c, holds);
    expect(around.follow).toHaveBeenCalledTimes(3);
    expect(tiesOf(state().ties, a).map((tie) => tie.with)).toEqual([b, c]);
    // tied anew it holds something else; tied to nothing it is no tie
    state().tie(b, a, { ...holds, scale: true });
    expect(state().ties).toHaveLength(3);
    state().tie(a, b, { place: false, scale: false, direction: 'free' });
    expect(state().ties).toHaveLength(2);
    state().setEcho({
      pane: c,
      drawingId: 'd',
      grid: { unit: 'mm', extents: null },
      pointed: { point: { x: 0, y: 0, z: 0 } },
    });
    state().close(c);
    expect(state().ties).toEqual([]);
    expect(state().echo).toBeNull();
  });

  it('that show nothing of one place are tied by what they can have in common', () => {
    state().split('row');
    around.sharesPlace.mockReturnValue(false);
    state().tie('1', '2', { place: true, scale: true, direction: 'free' });
    expect(state().ties).toEqual([{ one: '1', other: '2', place: false, scale: true, direction: 'free' }]);
    state().tie('1', '2', { place: true, scale: false, direction: 'free' });
    expect(state().ties).toEqual([]);
  });

  it('go to windows of their own and come back, but the last one stays', () => {
    state().split('row');
    state().sendApart('2');
    expect([all(), state().apart, state().active]).toEqual([['1'], ['2'], '1']);
    state().sendApart('1');
    expect(all()).toEqual(['1']);
    // its name isn't taken by a new one meanwhile
    expect(state().split('row')).toBe('3');
    state().takeBack('2');
    expect(all()).toEqual(['1', '3', '2']);
    expect(state().apart).toEqual([]);
  });

  it('can be brought back as they lay', () => {
    state().split('row');
    const two = state().tiling;
    state().close('2');
    expect(state().canUndo).toBe(true);
    state().undo();
    expect(around.restore).toHaveBeenLastCalledWith(two, false);
    state().undo();
    expect(around.restore).toHaveBeenLastCalledWith({ pane: '1' }, false);
    expect(state().canUndo).toBe(false);
  });
});
