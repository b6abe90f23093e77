import { beforeEach, describe, expect, it } from 'vitest';
import { Turns } from './turns';

let turns: Turns<string>;
beforeEach(() => {
  turns = new Turns();
});

describe('turns of several panes', () => {
  it('are always those of a pane that moves; the others wait until it rests', () => {
    expect(turns.mayDraw('a', 'moving', 0)).toBe(true);
    expect(turns.mayDraw('b', 'smoothing', 16)).toBe(false);
    // tied panes move together
    expect(turns.mayDraw('b', 'moving', 16)).toBe(true);
    expect(turns.mayDraw('c', 'filling', 100)).toBe(false);
    expect(turns.mayDraw('c', 'filling', 140)).toBe(true);
  });

  it('go to one pane at rest at a time, to what is lacking before what is only rough', () => {
    expect(turns.mayDraw('a', 'smoothing', 0)).toBe(true);
    expect(turns.mayDraw('b', 'smoothing', 0)).toBe(false);
    expect(turns.mayDraw('c', 'filling', 0)).toBe(true);
    expect(turns.mayDraw('a', 'smoothing', 16)).toBe(false);
    expect(turns.mayDraw('c', 'smoothing', 16)).toBe(true);
    turns.leave('c');
    expect(turns.mayDraw('b', 'smoothing', 32)).toBe(true);
  });

  it('are not held by a pane that waits for tiles or is gone', () => {
    expect(turns.mayDraw('a', 'filling', 0)).toBe(true);
    expect(turns.mayDraw('b', 'filling', 100)).toBe(false);
    expect(turns.mayDraw('b', 'filling', 300)).toBe(true);
    turns.leave('b');
    expect(turns.mayDraw('a', 'filling', 301)).toBe(true);
  });

  it('are nobody’s for those who are alone', () => {
    for (const [k, work] of (['moving', 'filling', 'smoothing', 'idle'] as const).entries())
      expect(turns.mayDraw('a', work, 16 * k)).toBe(true);
  });
});
