import { describe, expect, it } from 'vitest';
import { frameCornersTool } from './frame-corners.ts';
import { watch, watchAll } from './gesture-set.ts';
import type { PointerButton, Sample } from './samples.ts';
import { DOUBLE_PRESS_MS, wheelButton } from './wheel-button.ts';
import { notchesOf } from './wheel-notches.ts';
import { ZOOM_PER_NOTCH, wheelZoom } from './wheel-zoom.ts';

const pointer = (type: 'down' | 'move' | 'up', button: PointerButton, x: number, y: number, timeMs = 0): Sample => ({
  ...{ type, button, x, y, timeMs },
});
const notch = (notches: number): Sample => ({ type: 'wheel', x: 30, y: 40, notches, timeMs: 0 });
const hands = () => {
  const feed = watchAll([watch(wheelZoom), watch(wheelButton)]);
  return (...samples: Sample[]) => samples.flatMap((sample) => feed(sample).intents);
};

describe('the wheel', () => {
  it('zooms about the cursor, closer when turned away, in proportion to the turn', () => {
    const hand = hands();
    expect(hand(notch(-1))).toEqual([{ kind: 'zoom', at: { x: 30, y: 40 }, factor: ZOOM_PER_NOTCH }]);
    const small = hand(...Array.from({ length: 10 }, () => notch(0.1)));
    const product = small.reduce((all, intent) => all * (intent.kind === 'zoom' ? intent.factor : NaN), 1);
    expect(product).toBeCloseTo(1 / ZOOM_PER_NOTCH, 12);
  });

  it('does not zoom while it is pressed', () => {
    const hand = hands();
    expect(hand(pointer('down', 'wheel', 5, 5), notch(1), notch(-2))).toEqual([]);
    expect(hand(pointer('up', 'wheel', 5, 5), notch(1))).toHaveLength(1);
  });

  it('is felt alike in pixel, line and page mode', () => {
    expect(notchesOf(100, 0)).toBe(1);
    expect(notchesOf(3, 1)).toBe(1);
    expect(notchesOf(1, 2)).toBe(1);
    expect(notchesOf(-99_999, 0)).toBe(-5);
  });
});

describe('the pressed wheel', () => {
  it('pans by the whole way once it moved more than a tremble', () => {
    const hand = hands();
    expect(hand(pointer('down', 'wheel', 100, 100), pointer('move', 'none', 102, 101))).toEqual([]);
    expect(
      hand(pointer('move', 'none', 110, 100), pointer('move', 'none', 115, 90), pointer('up', 'wheel', 115, 90)),
    ).toEqual([{ kind: 'pan', dx: 10, dy: 0 }, { kind: 'pan', dx: 5, dy: -10 }, { kind: 'dragEnd' }]);
  });

  it('fits all on a double press, without a centring first', () => {
    const hand = hands();
    const twice = hand(
      pointer('down', 'wheel', 9, 9, 0),
      pointer('up', 'wheel', 9, 9, 60),
      { type: 'time', timeMs: 100 },
      pointer('down', 'wheel', 10, 9, 200),
      pointer('up', 'wheel', 10, 9, 260),
      { type: 'time', timeMs: 9000 },
    );
    expect(twice).toEqual([{ kind: 'fitAll' }]);
  });

  it('centres on a single press, once no second can follow', () => {
    const feed = watch(wheelButton);
    feed(pointer('down', 'wheel', 9, 9, 0));
    const { deadlineMs } = feed(pointer('up', 'wheel', 9, 9, 60));
    expect(deadlineMs).toBe(60 + DOUBLE_PRESS_MS);
    expect(feed({ type: 'time', timeMs: 61 }).intents).toEqual([]);
    expect(feed({ type: 'time', timeMs: deadlineMs! }).intents).toEqual([{ kind: 'centre', at: { x: 9, y: 9 } }]);
  });
});

describe('frame corners', () => {
  const tool = () => {
    const feed = watch(frameCornersTool);
    return (...samples: Sample[]) => samples.flatMap((sample) => feed(sample).intents.map((intent) => intent.kind));
  };

  it('frames by a drag', () => {
    expect(
      tool()(pointer('down', 'left', 0, 0), pointer('move', 'none', 50, 50), pointer('up', 'left', 80, 60)),
    ).toEqual(['frameBegin', 'frameMove', 'frameEnd', 'leaveTool']);
  });

  it('frames by two clicks, also at the same spot when the view has moved in between', () => {
    const hand = tool();
    expect(hand(pointer('down', 'left', 0, 0), pointer('up', 'left', 1, 0))).toEqual(['frameBegin']);
    expect(hand(pointer('down', 'left', 1, 1), pointer('up', 'left', 1, 1))).toEqual([]); // a double click sets one corner
    expect(hand(notch(1), pointer('down', 'left', 1, 1))).toEqual(['frameEnd', 'leaveTool']);
  });

  it('takes the corner back on Escape, then leaves', () => {
    const hand = tool();
    hand(pointer('down', 'left', 0, 0), pointer('up', 'left', 0, 0));
    expect(hand({ type: 'escape', timeMs: 0 }, { type: 'escape', timeMs: 0 })).toEqual(['frameDrop', 'leaveTool']);
  });

  it('is not ended by the wheel button', () => {
    const hand = tool();
    hand(pointer('down', 'left', 0, 0), pointer('up', 'left', 0, 0));
    expect(hand(pointer('down', 'wheel', 5, 5), pointer('up', 'wheel', 50, 50))).toEqual([]);
    expect(hand(pointer('down', 'left', 90, 90))).toEqual(['frameEnd', 'leaveTool']);
  });
});
