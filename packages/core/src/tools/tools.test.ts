import { describe, expect, it } from 'vitest';
import { planCamera, screenToWorld, worldToScreen, type Camera } from '../camera/camera.ts';
import type { Intent } from '../intent/intents.ts';
import type { PointerButton, Sample } from '../intent/samples.ts';
import type { Snap } from '../snap/snap.ts';
import { wayLength } from '../measure/measure-kinds.ts';
import { collectTool } from './collect.ts';
import { frameCornersTool } from './frame-corners.ts';
import { lensTool } from './lens.ts';
import { levelLineTool } from './level-line.ts';
import type { Tool, ToolView } from './tool.ts';

const distanceTool = collectTool({ least: 2, most: Infinity, handsOver: false });
const viewport = { widthPx: 800, heightPx: 600 };
const start = planCamera({ x: 412_345_678.9, y: 7_208_234_567.8, z: 0 }, 50);
const hands = { actOf: () => undefined, percentPerNotch: 20, isWheelReversed: false, hasTool: true };

const pointer = (
  type: 'down' | 'move' | 'up' | 'cancel',
  button: PointerButton,
  x: number,
  y: number,
  timeMs = 0,
): Sample => ({
  type,
  button,
  x,
  y,
  timeMs,
});
const click = (x: number, y: number, timeMs = 0): Sample[] => [
  pointer('move', 'none', x, y, timeMs),
  pointer('down', 'left', x, y, timeMs),
  pointer('up', 'left', x, y, timeMs),
];
const step = (type: 'escape' | 'enter'): Sample => ({ type, timeMs: 0 });
const notch = (notches: number): Sample => ({ type: 'wheel', x: 5, y: 5, notches, timeMs: 0 });

class InHand<State> {
  state: State;
  camera: Camera = start;
  snap: Snap | null = null;

  constructor(readonly tool: Tool<State>) {
    this.state = tool.initial;
  }

  feed(...samples: Sample[]): Intent[] {
    return samples.flatMap((sample) => {
      const view: ToolView = { camera: this.camera, viewport, snap: this.snap, hands };
      const { state, intents } = this.tool.step(this.state, sample, view);
      this.state = state;
      return [...intents];
    });
  }

  kinds(...samples: Sample[]): string[] {
    return this.feed(...samples).map(({ kind }) => kind);
  }
}

describe('frame corners', () => {
  it('frames by a drag', () => {
    const hand = new InHand(frameCornersTool);
    const [frame, leave] = hand.feed(
      pointer('down', 'left', 10, 20),
      pointer('move', 'none', 50, 50),
      pointer('up', 'left', 80, 60),
    );
    expect(frame).toEqual({
      kind: 'frame',
      corner: screenToWorld(start, viewport, { x: 10, y: 20 }),
      at: { x: 80, y: 60 },
    });
    expect(leave).toEqual({ kind: 'leaveTool' });
  });

  it('frames by two clicks, also at the same spot when the view has moved in between', () => {
    const hand = new InHand(frameCornersTool);
    expect(hand.kinds(...click(9, 9))).toEqual([]);
    expect(hand.kinds(...click(9, 9))).toEqual([]); // a double click sets one corner
    expect(hand.kinds(notch(1), ...click(9, 9))).toEqual(['frame', 'leaveTool']);
  });

  it('keeps its corner in the drawing and is ended by no navigation', () => {
    const hand = new InHand(frameCornersTool);
    hand.feed(...click(100, 100));
    hand.camera = { ...start, target: { ...start.target, x: start.target.x + 5000 }, unitsPerPx: 10 };
    hand.feed(pointer('down', 'wheel', 5, 5), pointer('move', 'none', 50, 50), pointer('up', 'wheel', 50, 50));
    expect(hand.tool.isPending(hand.state)).toBe(true);
    expect(hand.state.corner).toEqual(screenToWorld(start, viewport, { x: 100, y: 100 }));
  });

  it('takes the corner back on Escape, then leaves; Enter frames to the cursor', () => {
    const hand = new InHand(frameCornersTool);
    hand.feed(...click(0, 0));
    expect(hand.kinds(step('escape'))).toEqual([]);
    expect(hand.kinds(step('escape'))).toEqual(['leaveTool']);
    hand.feed(...click(0, 0), pointer('move', 'none', 300, 200));
    expect(hand.kinds(step('enter'))).toEqual(['frame', 'leaveTool']);
  });
});

describe('the lens', () => {
  it('enlarges by the wheel within its limits, and dives where it is clicked', () => {
    const hand = new InHand(lensTool);
    hand.feed(notch(-4));
    expect(hand.state.ratio).toBeCloseTo(8, 9);
    hand.feed(notch(-100));
    expect(hand.state.ratio).toBe(64);
    hand.feed(notch(100));
    expect(hand.state.ratio).toBe(1.5);
    // one click goes there and puts it away
    expect(hand.feed(...click(30, 40))).toEqual([
      { kind: 'dive', at: { x: 30, y: 40 }, ratio: 1.5 },
      { kind: 'leaveTool' },
    ]);
    expect(hand.kinds(step('escape'))).toEqual(['leaveTool']);
  });

  it('enlarges by as much as a digit says, ten times by 0', () => {
    const hand = new InHand(lensTool);
    for (const [digit, ratio] of [
      [6, 6],
      [0, 10],
      [1, 1.5],
    ] as const) {
      hand.feed({ type: 'digit', digit, timeMs: 0 });
      expect(hand.state.ratio).toBe(ratio);
    }
  });
});

describe('distance', () => {
  it('measures exact doubles from snap to snap, whatever the view does in between', () => {
    const hand = new InHand(distanceTool);
    const [a, b] = [
      { x: 412_345_600.123456, y: 7_208_234_500.654321, z: 0 },
      { x: 412_345_603.123456, y: 7_208_234_504.654321, z: 0 },
    ];
    hand.snap = { kind: 'end', point: a };
    hand.feed(...click(10, 10, 0));
    hand.camera = { ...start, unitsPerPx: 0.01 };
    hand.snap = { kind: 'middle', point: b };
    hand.feed(...click(500, 10, 1000));
    expect(hand.state.points).toEqual([a, b]);
    expect(wayLength(hand.state.points)).toBeCloseTo(5, 6);
  });

  it('goes on from point to point until Enter or a double click, and stays to be read', () => {
    const hand = new InHand(distanceTool);
    hand.feed(...click(0, 0, 0), ...click(30, 0, 1000), ...click(30, 40, 2000));
    expect(wayLength(hand.state.points)).toBeCloseTo(70 * 50, 6);
    expect(hand.tool.isPending(hand.state)).toBe(true);
    hand.feed(...click(30, 40, 2100)); // the second of a double click
    expect(hand.state.isDone).toBe(true);
    expect(hand.state.points).toHaveLength(3);
    hand.feed(...click(5, 5, 9000));
    expect(hand.state).toMatchObject({ isDone: false, points: { length: 1 } });
    hand.feed(...click(15, 5, 10_000), step('enter'));
    expect(hand.state.isDone).toBe(true);
  });

  it('measures by a drag, too', () => {
    const hand = new InHand(distanceTool);
    hand.feed(pointer('down', 'left', 0, 0), pointer('move', 'none', 10, 0), pointer('up', 'left', 60, 80));
    expect(wayLength(hand.state.points)).toBeCloseTo(5000, 6);
  });

  it('places nothing when a button comes up that went down for another tool', () => {
    const hand = new InHand(distanceTool);
    hand.feed(...click(0, 0, 0), pointer('move', 'none', 50, 50), pointer('up', 'left', 50, 50, 900));
    expect(hand.state.points).toHaveLength(1);
    const level = new InHand(levelLineTool);
    level.feed(...click(0, 0, 0));
    expect(level.kinds(pointer('up', 'left', 50, 50, 900))).toEqual([]);
  });

  it('steps back point by point, then leaves', () => {
    const hand = new InHand(distanceTool);
    hand.feed(...click(0, 0, 0), ...click(30, 0, 1000));
    expect(hand.kinds(step('escape'), step('escape'))).toEqual([]);
    expect(hand.state.points).toEqual([]);
    expect(hand.kinds(step('escape'))).toEqual(['leaveTool']);
  });
});

describe('collecting', () => {
  const collector = collectTool({ least: 2, most: 2, handsOver: true });

  it('hands its points over when it has all, and begins anew', () => {
    const hand = new InHand(collector);
    expect(hand.kinds(...click(0, 0, 0))).toEqual([]);
    const [collected] = hand.feed(...click(30, 0, 1000));
    expect(collected).toMatchObject({ kind: 'collected', points: [{}, {}] });
    expect(hand.state.points).toEqual([]);
    expect(hand.kinds(step('escape'))).toEqual(['leaveTool']);
  });

  it('takes typed points like clicked ones, and too few back', () => {
    const first = collector.add(collector.initial, { x: 1, y: 2, z: 3 });
    expect(first.state.points).toEqual([{ x: 1, y: 2, z: 3 }]);
    expect(collector.add(first.state, { x: 4, y: 5, z: 6 }).intents[0]).toMatchObject({ kind: 'collected' });
    const hand = new InHand(collector);
    hand.feed(...click(0, 0, 0), step('enter'));
    expect(hand.state.points).toEqual([]);
  });

  it('remembers what a point was placed on', () => {
    const hand = new InHand(distanceTool);
    const round = { centre: { x: 1, y: 2, z: 0 }, radius: 5 };
    hand.snap = { kind: 'nearest', point: { x: 6, y: 2, z: 0 }, round };
    hand.feed(...click(10, 10));
    expect(hand.state.points[0]).toEqual({ x: 6, y: 2, z: 0, round });
  });
});

describe('level a line', () => {
  it('tells the line between two clicks', () => {
    const hand = new InHand(levelLineTool);
    hand.feed(...click(100, 100));
    const [level] = hand.feed(...click(300, 150));
    expect(level?.kind).toBe('level');
    if (level?.kind !== 'level') return;
    expect(worldToScreen(start, viewport, level.from)).toEqual({ x: 100, y: 100 });
    expect(worldToScreen(start, viewport, level.to).x).toBeCloseTo(300, 6);
  });

  it('takes a line by one click on it', () => {
    const hand = new InHand(levelLineTool);
    const line = [
      { x: 0, y: 0, z: 0 },
      { x: 30, y: 10, z: 0 },
    ] as const;
    hand.snap = { kind: 'nearest', point: { x: 15, y: 5, z: 0 }, line };
    expect(hand.feed(...click(100, 100))).toEqual([
      { kind: 'level', from: line[0], to: line[1] },
      { kind: 'leaveTool' },
    ]);
  });

  it('takes the line of a drag, even one that begins on another line', () => {
    const hand = new InHand(levelLineTool);
    const end = { x: 1, y: 0, z: 0 };
    hand.snap = { kind: 'nearest', point: { x: 5, y: 5, z: 0 }, line: [{ x: 0, y: 0, z: 0 }, end] };
    hand.feed(pointer('down', 'left', 100, 100));
    hand.snap = null;
    const [level] = hand.feed(pointer('move', 'left', 300, 150), pointer('up', 'left', 300, 150));
    expect(level).toMatchObject({ kind: 'level', from: { x: 5, y: 5, z: 0 } });
    if (level?.kind === 'level') expect(level.to).not.toEqual(end);
  });
});
