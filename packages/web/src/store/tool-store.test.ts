import { describe, expect, it } from 'vitest';
import { planCamera } from '@gull-pane/core/camera/camera';
import type { ToolView } from '@gull-pane/core/tools/tool';
import { createToolStore, isFaceAsked, toolInHand } from './tool-store';

const view = {
  camera: planCamera({ x: 0, y: 0, z: 0 }, 1),
  viewport: { widthPx: 800, heightPx: 600 },
  snap: null,
  hands: { actOf: () => undefined, percentPerNotch: 20, isWheelReversed: false, hasTool: true },
} satisfies ToolView;
const click = [
  { type: 'down', button: 'left', x: 40, y: 30, timeMs: 0 },
  { type: 'up', button: 'left', x: 40, y: 30, timeMs: 10 },
] as const;

describe('the tools', () => {
  it('look for faces alone where a face is asked for', () => {
    const tools = createToolStore();
    tools.getState().collect('plane-face');
    expect(isFaceAsked(tools.getState())).toBe(true);
    tools.getState().collect('faces');
    expect(isFaceAsked(tools.getState())).toBe(true);
    tools.getState().place({ x: 1, y: 2, z: 3 });
    expect(isFaceAsked(tools.getState())).toBe(false); // the other may be a point
    tools.getState().collect('distance');
    expect(isFaceAsked(tools.getState())).toBe(false);
    tools.getState().leave();
    expect(isFaceAsked(tools.getState())).toBe(false);
  });

  it('give a borrowed lens back after it was used, and stay at work themselves', () => {
    const tools = createToolStore();
    tools.getState().collect('distance');
    tools.getState().borrow('lens');
    expect(toolInHand(tools.getState())).toBe('lens');
    for (const sample of click) tools.getState().feed(sample, view);
    expect(toolInHand(tools.getState())).toBe('collect');
  });

  it('wait where they ask for something, until it was brought into sight', () => {
    const tools = createToolStore();
    tools.getState().collect('distance');
    tools.getState().toggle('level');
    for (const sample of click) tools.getState().feed(sample, view);
    const { from } = tools.getState().states.level;
    expect(from).not.toBeNull();
    tools.getState().toggle('frame');
    expect(toolInHand(tools.getState())).toBe('frame');
    tools.getState().leave();
    expect(toolInHand(tools.getState())).toBe('level');
    expect(tools.getState().states.level.from).toBe(from);
    tools.getState().leave();
    expect(toolInHand(tools.getState())).toBe('collect');
  });

  it('put a lens away that was taken in hand once it was used', () => {
    const tools = createToolStore();
    tools.getState().toggle('lens');
    for (const sample of click) tools.getState().feed(sample, view);
    expect(toolInHand(tools.getState())).toBeNull();
  });
});
