import { RawShaderMaterial, type WebGLRenderer } from 'three';
import { describe, expect, it } from 'vitest';
import { identityQuaternion } from '@gull-pane/core/geometry/quaternion';
import type { ClipVolume } from '@gull-pane/core/clip/clip-volume';
import { CutMaterials } from './cut-materials';
import { shaderClips } from './shader-clips';

const clip = (kind: ClipVolume['kind'], keeps: ClipVolume['keeps']): ClipVolume => ({
  id: 1,
  name: '',
  kind,
  keeps,
  isOn: true,
  centre: { x: 0, y: 0, z: 0 },
  orientation: identityQuaternion,
  half: { x: 5, y: 5, z: 5 },
});
const inside = clip('box', 'inside');
const outside = clip('box', 'outside');
const section = clip('plane', 'inside');

/** As far as cutting needs a renderer. @param enabled gets the capabilities that are on */
const renderer = (hasPlanes: boolean, enabled = new Set<number>()): WebGLRenderer =>
  ({
    extensions: { has: () => hasPlanes },
    state: { enable: (id: number) => enabled.add(id), disable: (id: number) => enabled.delete(id) },
  }) as unknown as WebGLRenderer;

/** By how many planes a set of clips cuts, and how many of them are looked at in each px. */
function cutsOf(clips: readonly ClipVolume[], which: number, hasPlanes = true): [planes: number, perPx: number] {
  const cuts = new CutMaterials();
  cuts.setClips(shaderClips(clips, { x: 0, y: 0, z: 0 }), renderer(hasPlanes));
  const { defines } = cuts.cutOf(new RawShaderMaterial({ defines: {} }), which);
  return [Number(defines.PLANES ?? 0), Number(defines.CLIPS ?? 0)];
}

describe('materials that clips cut', () => {
  it('cut by planes where what is kept is convex, and look at each px where it isn’t', () => {
    expect(cutsOf([inside], 1)).toEqual([6, 0]);
    expect(cutsOf([section], 1)).toEqual([1, 0]);
    expect(cutsOf([outside], 1)).toEqual([0, 1]);
    expect(cutsOf([inside, outside, section], 7)).toEqual([7, 1]);
  });

  it('have no more planes than a graphics processor has, and none where it has none', () => {
    expect(cutsOf([inside, inside, section], 7)).toEqual([7, 1]);
    expect(cutsOf([inside, outside, section], 7, false)).toEqual([0, 3]);
  });

  it('mind the clips alone that reach what they are for', () => {
    expect(cutsOf([inside, outside], 1)).toEqual([6, 0]);
    expect(cutsOf([inside, outside], 2)).toEqual([0, 1]);
  });

  it('are one for each set of clips, and follow when the clips change', () => {
    const cuts = new CutMaterials();
    const whole = new RawShaderMaterial({ defines: { POINTS: '' }, uniforms: { side: { value: 3 } } });
    cuts.setClips(shaderClips([inside], { x: 0, y: 0, z: 0 }), renderer(true));
    const cut = cuts.cutOf(whole, 1);
    expect(cuts.cutOf(whole, 1)).toBe(cut);
    expect(cuts.cutOf(whole, 2)).not.toBe(cut);
    expect(cut.uniforms.side).toBe(whole.uniforms.side);
    const before = cut.version;
    cuts.setClips(shaderClips([section], { x: 0, y: 0, z: 0 }), renderer(true));
    expect(cut.defines).toEqual({ POINTS: '', PLANES: 1 });
    expect(cut.version).toBeGreaterThan(before); // made anew
  });

  it('switch on as many planes as they have when they are drawn with', () => {
    const cuts = new CutMaterials();
    cuts.setClips(shaderClips([inside, section], { x: 0, y: 0, z: 0 }), renderer(true));
    const whole = new RawShaderMaterial({ defines: {} });
    const enabled = new Set<number>();
    const draw = (which: number): number => {
      // of what three hands on only the renderer is looked at
      (cuts.cutOf(whole, which).onBeforeRender as (by: WebGLRenderer) => void)(renderer(true, enabled));
      return enabled.size;
    };
    expect([draw(3), draw(2), draw(1)]).toEqual([7, 1, 6]);
  });
});
