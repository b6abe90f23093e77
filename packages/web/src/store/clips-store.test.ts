import { describe, expect, it } from 'vitest';
import { cube } from '@gull-pane/core/solid/test-shapes';
import { isKept } from '@gull-pane/core/clip/clip-volume';
import { shownAtFirst } from '@gull-pane/core/view/shown';
import { createClipsStore } from './clips-store';
import { createPaneStore } from './pane-store';

let timeMs = 0;
const all = [...cube(1000).positions];
function store(picked: readonly number[] = []) {
  const pane = createPaneStore('1', {
    limits: { minUnitsPerPx: 0.1, maxUnitsPerPx: 10 },
    support: () => [],
    now: () => timeMs,
    prefersStill: () => true,
    glides: () => false,
    shown: shownAtFirst(),
  });
  const clips = createClipsStore(pane, {
    picked: () => picked,
    all: () => all,
    faceAt: ({ x }) => (x < 0 ? null : { point: { x: 500, y: 500, z: 1000 }, normal: { x: 0, y: 0, z: 1 }, object: 7 }),
    cornersOf: (object) => (object === 7 ? [...cube(100, [200, 200, 900]).positions] : []),
  });
  return { pane, clips, volumes: () => pane.getState().shown.clips };
}

describe('the clips of a pane', () => {
  it('begin with a box about what is picked, or about everything', () => {
    const about = (picked: readonly number[]) => {
      const { clips, volumes } = store(picked);
      clips.getState().addBox();
      expect(clips.getState().chosen).toBe(volumes()[0]!.id);
      return volumes();
    };
    expect(isKept(about([]), { x: 1, y: 999, z: 500 })).toBe(true);
    const small = about([...cube(100, [300, 300, 300]).positions]);
    expect(isKept(small, { x: 350, y: 350, z: 399 })).toBe(true);
    expect(isKept(small, { x: 450, y: 350, z: 350 })).toBe(false);
  });

  it('cut by a face: what lies before it goes, until that is flipped', () => {
    const { clips, volumes } = store();
    clips.getState().cutBy('section', { x: 10, y: 10 });
    const [plane] = volumes();
    expect(isKept([plane!], { x: 0, y: 0, z: 999 })).toBe(true);
    expect(isKept([plane!], { x: 0, y: 0, z: 1001 })).toBe(false);
    clips.getState().draw(plane!.id, 0, -400);
    expect(isKept(volumes(), { x: 0, y: 0, z: 601 })).toBe(false);
    clips.getState().change(plane!.id, { keeps: 'outside' });
    expect(isKept(volumes(), { x: 0, y: 0, z: 601 })).toBe(true);
    clips.getState().toggleAll();
    expect(isKept(volumes(), { x: 0, y: 0, z: 0 })).toBe(true);
  });

  it('lie along a face about its object', () => {
    const { clips, volumes } = store();
    clips.getState().cutBy('box', { x: 10, y: 10 });
    expect(isKept(volumes(), { x: 250, y: 250, z: 950 })).toBe(true);
    expect(isKept(volumes(), { x: 350, y: 250, z: 950 })).toBe(false);
  });

  it('say why nothing was cut, and take no more than the shaders can', () => {
    const { clips, volumes } = store();
    clips.getState().cutBy('section', { x: -1, y: 0 });
    expect(clips.getState().refusal).toContain('There is no face');
    for (let i = 0; i < 5; i++) clips.getState().addBox();
    expect(volumes()).toHaveLength(4);
    expect(clips.getState().refusal).toContain('No more than 4');
    clips.getState().remove(clips.getState().chosen!);
    clips.getState().addBox();
    expect(volumes().map(({ name }) => name)).toEqual(['Box 1', 'Box 2', 'Box 3', 'Box 4']);
  });

  it('are taken back by Back, a drag as one step', () => {
    const { pane, clips, volumes } = store();
    clips.getState().addBox();
    const before = volumes();
    timeMs += 5000;
    for (let i = 0; i < 9; i++) clips.getState().draw(1, 1, -10);
    clips.getState().endDraw();
    const drawn = volumes();
    timeMs += 5000;
    clips.getState().remove(1);
    expect(volumes()).toEqual([]);
    pane.getState().back();
    expect(volumes()).toBe(drawn);
    pane.getState().back();
    expect(volumes()).toBe(before);
    pane.getState().back();
    expect(volumes()).toEqual([]);
  });
});
