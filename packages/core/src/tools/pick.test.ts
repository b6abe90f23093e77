import { describe, expect, it } from 'vitest';
import { planCamera } from '../camera/camera.ts';
import type { Sample } from '../intent/samples.ts';
import { pickTool, type PickState } from './pick.ts';
import type { ToolView } from './tool.ts';

const view: ToolView = {
  camera: planCamera({ x: 0, y: 0, z: 0 }, 2),
  viewport: { widthPx: 800, heightPx: 600 },
  snap: null,
  hands: { actOf: () => undefined, percentPerNotch: 20, isWheelReversed: false, hasTool: false },
};
const pointer = (type: 'down' | 'move' | 'up' | 'cancel', x: number, y: number, modifiers = ''): Sample => ({
  type,
  x,
  y,
  modifiers,
  timeMs: 0,
  button: type === 'move' ? 'none' : 'left',
});

function play(samples: readonly Sample[]) {
  let state: PickState = pickTool.initial;
  const intents = samples.flatMap((sample) => {
    const step = pickTool.step(state, sample, view);
    ({ state } = step);
    return [...step.intents];
  });
  return { state, intents };
}

describe('picking', () => {
  it('a click picks, also a trembling one; Shift changes what is picked', () => {
    const click = [pointer('down', 100, 100), pointer('move', 102, 101), pointer('up', 102, 101)];
    expect(play(click).intents).toEqual([{ kind: 'pick', at: { x: 102, y: 101 }, changes: false }]);
    const changed = [pointer('down', 100, 100, 'Shift+'), pointer('up', 100, 100)];
    expect(play(changed).intents).toEqual([{ kind: 'pick', at: { x: 100, y: 100 }, changes: true }]);
  });

  it('a drag picks by a box whose first corner stands in the drawing', () => {
    const drag = [pointer('down', 400, 300), pointer('move', 420, 300), pointer('move', 500, 350)];
    expect(play(drag).state.to).toEqual({ x: 500, y: 350 });
    expect(pickTool.isPending(play(drag).state)).toBe(true);
    expect(play([...drag, pointer('up', 500, 350)]).intents).toEqual([
      { kind: 'pickBox', corner: { x: 0, y: 0, z: 0 }, at: { x: 500, y: 350 }, changes: false },
    ]);
  });

  it('Escape gives a box up first, then clears; a finger that moved away picks nothing', () => {
    const drag = [pointer('down', 400, 300), pointer('move', 500, 350)];
    const escape: Sample = { type: 'escape', timeMs: 0 };
    expect(play([...drag, escape]).intents).toEqual([]);
    expect(play([...drag, escape, pointer('up', 500, 350)]).intents).toEqual([]);
    expect(play([escape]).intents).toEqual([{ kind: 'clearPicks' }]);
    expect(play([pointer('down', 400, 300), pointer('up', 500, 350)]).intents).toEqual([]);
    expect(play([...drag, pointer('cancel', 0, 0)]).state).toEqual(pickTool.initial);
  });
});
