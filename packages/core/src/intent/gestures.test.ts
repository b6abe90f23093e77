import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { DOUBLE_PRESS_MS, PX_PER_DOUBLING } from './button-gestures.ts';
import { edgePush } from './edge-push.ts';
import { createFingerPointer } from './finger-pointer.ts';
import type { Hands } from './hands.ts';
import { byInput, clashesOf, partsOf } from './inputs.ts';
import type { Intent } from './intents.ts';
import { createNavigation } from './navigation.ts';
import { handProfiles, profileOf, type ProfileId } from './profiles.ts';
import type { Finger, PointerButton, Sample } from './samples.ts';
import { notchesOf, pinchOf } from './wheel-notches.ts';

type PointerType = 'down' | 'move' | 'up' | 'cancel';
const pointer = (
  type: PointerType,
  button: PointerButton,
  x: number,
  y: number,
  timeMs = 0,
  modifiers = '',
): Sample => ({
  type,
  button,
  x,
  y,
  timeMs,
  modifiers,
});
const notch = (notches: number, more: object = {}): Sample => ({
  type: 'wheel',
  x: 30,
  y: 40,
  notches,
  timeMs: 0,
  ...more,
});
const fingers = (timeMs: number, ...places: [number, number][]): Sample => ({
  type: 'touch',
  fingers: places.map(([x, y], id): Finger => ({ id, x, y })),
  timeMs,
});

interface Hand {
  (...samples: Sample[]): Intent[];
  taken: boolean[];
  settings: { -readonly [Key in keyof Hands]: Hands[Key] };
}
const handWith = (id: ProfileId = 'wheel-button'): Hand => {
  const acts = byInput(profileOf(id).bindings);
  const settings = {
    actOf: (input: string) => acts.get(input),
    percentPerNotch: 20,
    isWheelReversed: false,
    hasTool: false,
  };
  const feed = createNavigation(() => settings);
  const hand = ((...samples: Sample[]) =>
    samples.flatMap((sample) => {
      const { intents, isTaken } = feed(sample);
      hand.taken.push(isTaken);
      return intents;
    })) as Hand;
  hand.taken = [];
  hand.settings = settings;
  return hand;
};
const productOf = (intents: Intent[]): number =>
  intents.reduce((all, intent) => all * (intent.kind === 'zoom' ? intent.factor : NaN), 1);

describe('the wheel', () => {
  it('zooms about the cursor, closer when turned away, in proportion to the turn', () => {
    const hand = handWith();
    expect(hand(notch(-1))).toEqual([{ kind: 'zoom', at: { x: 30, y: 40 }, factor: 1.2, within: 'burst' }]);
    expect(productOf(hand(...Array.from({ length: 10 }, () => notch(0.1))))).toBeCloseTo(1 / 1.2, 12);
  });

  it('has a step in per cent and a direction that can be reversed', () => {
    const hand = handWith();
    hand.settings.percentPerNotch = 50;
    expect(productOf(hand(notch(-2)))).toBeCloseTo(2.25, 12);
    hand.settings.isWheelReversed = true;
    expect(productOf(hand(notch(-2)))).toBeCloseTo(1 / 2.25, 12);
  });

  it('does not zoom while it is pressed', () => {
    const hand = handWith();
    expect(hand(pointer('down', 'wheel', 5, 5), notch(1), notch(-2))).toEqual([]);
    expect(hand(pointer('up', 'wheel', 5, 5), notch(1))).toHaveLength(1);
  });

  it('moves the view where it is bound to that, and zooms with Ctrl', () => {
    const hand = handWith('trackpad');
    const byPx = { x: 7, y: -12 };
    expect(hand(notch(-0.12, { byPx }))).toEqual([{ kind: 'pan', dx: -7, dy: 12, within: 'burst' }]);
    expect(productOf(hand(notch(-1, { byPx, modifiers: 'Ctrl+' })))).toBeCloseTo(1.2, 12);
    expect(productOf(hand(notch(0, { pinch: 1.01 })))).toBeCloseTo(1.01, 12);
  });

  // what three devices report for one turn or spread that shall be felt alike: two notches away, or a factor 1.44
  it.each([
    ['a wheel with notches', [-100, -100].map((px) => notchesOf(px, 0))],
    ['a wheel that reports lines', [-3, -3].map((lines) => notchesOf(lines, 1))],
    ['a wheel of fine steps', Array.from({ length: 16 }, () => notchesOf(-12.5, 0))],
    ['a wheel of uneven fine steps', [-1, -3, -9, -22, -38, -47, -38, -23, -12, -5, -2].map((px) => notchesOf(px, 0))],
  ])('is felt alike: %s', (_, stream) => {
    expect(productOf(handWith()(...stream.map((notches) => notch(notches))))).toBeCloseTo(1.44, 10);
  });

  it('takes a pinch by the fingers’ own measure, in however many events it comes', () => {
    const total = Math.log(1.44) * -100;
    for (const count of [1, 5, 40]) {
      const stream = Array.from({ length: count }, () => notch(0, { pinch: pinchOf(total / count) }));
      expect(productOf(handWith()(...stream))).toBeCloseTo(1.44, 10);
    }
  });

  it('cannot throw the view away', () => {
    expect(notchesOf(-99_999, 0)).toBe(-5);
    expect(notchesOf(1, 2)).toBe(1);
    expect(pinchOf(-1e9)).toBe(4);
  });
});

describe('the pressed wheel', () => {
  it('pans by the whole way once it moved more than a tremble', () => {
    const hand = handWith();
    expect(hand(pointer('down', 'wheel', 100, 100), pointer('move', 'none', 102, 101))).toEqual([]);
    expect(
      hand(
        pointer('move', 'none', 110, 100, 10),
        pointer('move', 'none', 115, 90, 20),
        pointer('up', 'wheel', 115, 90, 200),
      ),
    ).toEqual([
      { kind: 'pan', dx: 10, dy: 0, within: 'drag' },
      { kind: 'pan', dx: 5, dy: -10, within: 'drag' },
      { kind: 'dragEnd' },
    ]);
  });

  it('tells the speed of the hand at its end, unless the hand has put the view down', () => {
    const drag = (releasedMs: number): Intent | undefined => {
      const hand = handWith();
      const moves = Array.from({ length: 9 }, (_, i) => pointer('move', 'none', 100 + 12 * i, 100, 8 * i));
      return hand(pointer('down', 'wheel', 100, 100), ...moves, pointer('up', 'wheel', 196, 100, releasedMs)).at(-1);
    };
    expect(drag(70)).toEqual({ kind: 'dragEnd', velocity: { x: 1.5, y: 0 } });
    expect(drag(200)).toEqual({ kind: 'dragEnd' });
  });

  it('fits all on a double press, without a centring first', () => {
    const twice = handWith()(
      pointer('down', 'wheel', 9, 9, 0),
      pointer('up', 'wheel', 9, 9, 60),
      { type: 'time', timeMs: 100 },
      pointer('down', 'wheel', 10, 9, 200),
      pointer('up', 'wheel', 10, 9, 260),
      { type: 'time', timeMs: 9000 },
    );
    expect(twice).toEqual([{ kind: 'act', id: 'fit-all', at: { x: 10, y: 9 } }]);
  });

  it('does nothing on the release of a wheel that was turned while it was pressed', () => {
    const turned = handWith()(
      pointer('down', 'wheel', 9, 9, 0),
      notch(-1, { timeMs: 100 }),
      pointer('up', 'wheel', 9, 9, 200),
      { type: 'time', timeMs: 9000 },
    );
    expect(turned.filter(({ kind }) => kind === 'act')).toEqual([]);
  });

  it('centres on a single press, once no second can follow', () => {
    const hand = handWith();
    hand(pointer('down', 'wheel', 9, 9, 0), pointer('up', 'wheel', 9, 9, 60));
    expect(hand({ type: 'time', timeMs: 61 })).toEqual([]);
    expect(hand({ type: 'time', timeMs: 60 + DOUBLE_PRESS_MS })).toEqual([
      { kind: 'act', id: 'centre-here', at: { x: 9, y: 9 } },
    ]);
  });
});

describe('profiles', () => {
  const dragOf = (button: PointerButton, modifiers = ''): Sample[] => [
    pointer('down', button, 100, 100, 0, modifiers),
    pointer('move', 'none', 100, 50, 10, modifiers),
    pointer('up', button, 100, 50, 300, modifiers),
  ];

  it.each([
    ['wheel-button', 'wheel', '', 'pan'],
    ['wheel-button', 'left', 'Alt+', 'pan'],
    ['wheel-button', 'wheel', 'Shift+', 'orbit'], // a plan never tilts
    ['wheel-button', 'wheel', 'Ctrl+', 'zoom'],
    ['wheel-button', 'wheel', 'Ctrl+Shift+', 'twist'],
    ['right-drag', 'right', '', 'pan'],
    ['right-drag', 'right', 'Ctrl+', 'zoom'],
    ['trackpad', 'left', 'Ctrl+', 'zoom'],
    ['touch', 'left', '', 'pan'],
  ] as const)('%s: dragging the %s button with “%s” is %s', (id, button, modifiers, kind) => {
    expect(handWith(id)(...dragOf(button, modifiers)).map((intent) => intent.kind)).toEqual([kind, 'dragEnd']);
  });

  it('zoom by a drag about the point first pressed: up is closer', () => {
    const [zoom] = handWith()(...dragOf('wheel', 'Ctrl+'));
    expect(zoom).toEqual({ kind: 'zoom', at: { x: 100, y: 100 }, factor: 2 ** (50 / PX_PER_DOUBLING), within: 'drag' });
  });

  it('open the short menu with the right button, also where dragging it pans', () => {
    for (const { id } of handProfiles) {
      const press = [pointer('down', 'right', 7, 8), pointer('up', 'right', 7, 8)];
      expect(handWith(id)(...press)).toEqual([{ kind: 'act', id: 'menu', at: { x: 7, y: 8 } }]);
    }
  });

  it('walk the trail with the buttons at the side', () => {
    for (const [button, id] of [
      ['back', 'back'],
      ['forward', 'forward'],
    ] as const) {
      const press = [pointer('down', button, 7, 8), pointer('up', button, 7, 8)];
      expect(handWith()(...press)).toEqual([{ kind: 'act', id, at: { x: 7, y: 8 } }]);
    }
  });

  it('leave the left button to the tool in hand, unless a key or a modifier borrows it', () => {
    const hand = handWith('touch');
    hand.settings.hasTool = true;
    expect(hand(...dragOf('left'))).toEqual([]);
    expect(hand.taken).toEqual([false, false, false]);
    hand.taken.length = 0;
    expect(hand(...dragOf('left', 'Ctrl+')).map((intent) => intent.kind)).toEqual(['zoom', 'dragEnd']);
    expect(hand.taken).toEqual([true, true, true]);
  });

  it('tell inputs in words', () => {
    expect(partsOf('Ctrl+Shift+drag:wheel')).toEqual({
      modifiers: ['Ctrl', 'Shift'],
      key: null,
      words: 'drag the wheel',
    });
    expect(partsOf('double:finger').words).toBe('press the finger twice');
    expect(partsOf('hold:p')).toEqual({ modifiers: [], key: 'p', words: 'while held' });
    expect(partsOf('Shift++')).toEqual({ modifiers: ['Shift'], key: '+', words: '' });
  });

  it('show clashes', () => {
    expect(clashesOf({ pan: ['drag:wheel'], zoom: ['turn', 'drag:wheel'], twist: [] })).toEqual([
      { input: 'drag:wheel', acts: ['pan', 'zoom'] },
    ]);
  });
});

describe('held keys', () => {
  it.each([
    ['p', 'pan'],
    ['z', 'zoom'],
    ['t', 'twist'],
  ])('%s borrows the left button to %s, with a tool in hand, too', (key, kind) => {
    const hand = handWith();
    hand.settings.hasTool = true;
    expect(hand({ type: 'hold', key, timeMs: 0 })).toEqual([{ kind: 'borrow', act: kind }]);
    const drag = hand(
      pointer('down', 'left', 10, 10),
      pointer('move', 'none', 40, 60, 5),
      pointer('up', 'left', 40, 60, 200),
    );
    expect(drag.map((intent) => intent.kind)).toEqual([kind, 'dragEnd']);
    expect(hand.taken.slice(1)).toEqual([true, true, true]);
    expect(hand({ type: 'hold', key: null, timeMs: 300 })).toEqual([{ kind: 'borrow', act: null }]);
    hand.taken.length = 0;
    expect(hand(pointer('down', 'left', 10, 10), pointer('up', 'left', 10, 10))).toEqual([]);
    expect(hand.taken).toEqual([false, false]);
  });
});

describe('fingers', () => {
  it('one pans, and glides when it is let go', () => {
    const hand = handWith('touch');
    const moves = Array.from({ length: 8 }, (_, i) => fingers(8 * i, [100 + 8 * i, 100]));
    const intents = hand(...moves, fingers(60));
    const way = intents.reduce((sum, intent) => sum + (intent.kind === 'pan' ? intent.dx : 0), 0);
    expect(way).toBe(56);
    expect(intents.at(-1)).toEqual({ kind: 'dragEnd', velocity: { x: 1, y: 0 } });
  });

  it('two zoom and pan so that both points stay under them', () => {
    const spots = fc.tuple(fc.integer({ min: 0, max: 400 }), fc.integer({ min: 0, max: 400 }));
    fc.assert(
      fc.property(spots, spots, fc.double({ min: 0.5, max: 2, noNaN: true }), spots, (a, b, factor, [dx, dy]) => {
        fc.pre(Math.hypot(a[0] - b[0], a[1] - b[1]) > 20);
        const moved = (p: [number, number]): [number, number] => [p[0] * factor + dx, p[1] * factor + dy];
        // what the intents do to a point of the picture
        let carried = [a, b];
        for (const intent of handWith()(fingers(0, a), fingers(1, a, b), fingers(2, moved(a), moved(b)))) {
          carried = carried.map(([x, y]) => {
            if (intent.kind === 'pan') return [x + intent.dx, y + intent.dy];
            if (intent.kind !== 'zoom') return [x, y];
            return [intent.at.x + (x - intent.at.x) * intent.factor, intent.at.y + (y - intent.at.y) * intent.factor];
          });
        }
        [a, b].map(moved).forEach((place, i) => {
          expect(carried[i]![0]).toBeCloseTo(place[0], 6);
          expect(carried[i]![1]).toBeCloseTo(place[1], 6);
        });
      }),
    );
  });

  it('two twist only once they have clearly turned', () => {
    const turned = (degrees: number): [number, number] => {
      const angle = (degrees * Math.PI) / 180;
      return [200 + 100 * Math.cos(angle), 200 - 100 * Math.sin(angle)];
    };
    const hand = handWith();
    hand(fingers(0, [200, 200]), fingers(1, [200, 200], turned(0)));
    expect(hand(fingers(2, [200, 200], turned(8))).some(({ kind }) => kind === 'twistBy')).toBe(false);
    hand(fingers(3, [200, 200], turned(16)));
    const twist = hand(fingers(4, [200, 200], turned(26))).find(({ kind }) => kind === 'twistBy');
    expect(twist?.kind === 'twistBy' && twist.angleRad).toBeCloseTo((10 * Math.PI) / 180, 9);
  });

  it('tap twice to fit all', () => {
    const taps = handWith()(fingers(0, [5, 5]), fingers(60), fingers(200, [8, 6]), fingers(250));
    expect(taps).toEqual([{ kind: 'act', id: 'fit-all', at: { x: 8, y: 6 } }]);
  });

  it('one serves the tool in hand, and a second one never places anything', () => {
    const asPointer = createFingerPointer();
    const kinds = (...samples: Sample[]): string[] => samples.flatMap((s) => asPointer(s).map(({ type }) => type));
    expect(kinds(fingers(0, [5, 5]), fingers(60))).toEqual(['move', 'down', 'up']);
    expect(kinds(fingers(0, [5, 5]), fingers(5, [40, 5]), fingers(9, [60, 5]), fingers(60))).toEqual([
      'move',
      'down',
      'move',
      'move',
      'up',
    ]);
    expect(kinds(fingers(0, [5, 5]), fingers(5, [5, 5], [90, 90]), fingers(9, [5, 5]), fingers(60))).toEqual([]);
  });
});

describe('the edge of a pane', () => {
  const viewport = { widthPx: 1000, heightPx: 700 };
  it('moves the drawing the faster, the nearer the cursor comes, and not at all away from it', () => {
    expect(edgePush({ x: 500, y: 350 }, viewport)).toBeNull();
    const near = edgePush({ x: 990, y: 350 }, viewport)!;
    const nearer = edgePush({ x: 999, y: 350 }, viewport)!;
    expect(near.x).toBeLessThan(0);
    expect(nearer.x).toBeLessThan(near.x);
    expect(edgePush({ x: 3, y: 350 }, viewport)!.x).toBeGreaterThan(0);
    expect(edgePush({ x: 1010, y: 350 }, viewport)).toBeNull();
  });
});
