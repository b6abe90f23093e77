import { describe, expect, it } from 'vitest';
import { cube } from '@gull-pane/core/solid/test-shapes';
import { isKept } from '@gull-pane/core/clip/clip-volume';
import { createClipsStore } from './clips-store';

const all = [...cube(1000).positions];
function store(picked: readonly number[] = []) {
  return createClipsStore({
    ...{ picked: () => picked, all: () => all, most: 4 },
    faceAt: ({ x }) => (x < 0 ? null : { point: { x: 500, y: 500, z: 1000 }, normal: { x: 0, y: 0, z: 1 }, object: 7 }),
    cornersOf: (object) => (object === 7 ? [...cube(100, [200, 200, 900]).positions] : []),
  });
}

describe('the clips of a pane', () => {
  it('begin with a box about what is picked, or about everything', () => {
    const about = (picked: readonly number[]) => {
      const clips = store(picked);
      clips.getState().addBox();
      const { volumes, chosen } = clips.getState();
      expect(chosen).toBe(volumes[0]!.id);
      return volumes;
    };
    expect(isKept(about([]), { x: 1, y: 999, z: 500 })).toBe(true);
    const small = about([...cube(100, [300, 300, 300]).positions]);
    expect(isKept(small, { x: 350, y: 350, z: 399 })).toBe(true);
    expect(isKept(small, { x: 450, y: 350, z: 350 })).toBe(false);
  });

  it('cut by a face: what lies before it goes, until that is flipped', () => {
    const clips = store();
    clips.getState().cutBy('section', { x: 10, y: 10 });
    const [plane] = clips.getState().volumes;
    expect(isKept([plane!], { x: 0, y: 0, z: 999 })).toBe(true);
    expect(isKept([plane!], { x: 0, y: 0, z: 1001 })).toBe(false);
    clips.getState().draw(plane!.id, 0, -400);
    expect(isKept(clips.getState().volumes, { x: 0, y: 0, z: 601 })).toBe(false);
    clips.getState().change(plane!.id, { keeps: 'outside' });
    expect(isKept(clips.getState().volumes, { x: 0, y: 0, z: 601 })).toBe(true);
    clips.getState().toggleAll();
    expect(isKept(clips.getState().volumes, { x: 0, y: 0, z: 0 })).toBe(true);
  });

  it('lie along a face about its object', () => {
    const clips = store();
    clips.getState().cutBy('box', { x: 10, y: 10 });
    const { volumes } = clips.getState();
    expect(isKept(volumes, { x: 250, y: 250, z: 950 })).toBe(true);
    expect(isKept(volumes, { x: 350, y: 250, z: 950 })).toBe(false);
  });

  it('say why nothing was cut, and take no more than the shaders can', () => {
    const clips = store();
    clips.getState().cutBy('section', { x: -1, y: 0 });
    expect(clips.getState().refusal).toContain('Nothing is there');
    for (let i = 0; i < 5; i++) clips.getState().addBox();
    expect(clips.getState().volumes).toHaveLength(4);
    expect(clips.getState().refusal).toContain('No more than 4');
    clips.getState().remove(clips.getState().chosen!);
    clips.getState().addBox();
    expect(clips.getState().volumes.map(({ name }) => name)).toEqual(['Box 1', 'Box 2', 'Box 3', 'Box 5']);
  });
});
