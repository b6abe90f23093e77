import { describe, expect, it } from 'vitest';
import { PaneWishes } from './pane-wishes';

describe('what panes want together', () => {
  it('is each tile once, the first of every pane before the second of any', () => {
    const wishes = new PaneWishes();
    expect(wishes.change('1', [1, 2, 3])).toEqual([1, 2, 3]);
    expect(wishes.change('2', [9, 2])).toEqual([1, 9, 2, 3]);
    expect(wishes.change('1/lens', [7])).toEqual([1, 9, 7, 2, 3]);
    expect(wishes.of('2')).toEqual([9, 2]);
  });

  it('loses what a pane wanted, with its lens, when it goes', () => {
    const wishes = new PaneWishes();
    wishes.change('1', [1]);
    wishes.change('1/lens', [7]);
    wishes.change('11', [5]);
    expect(wishes.drop('1')).toEqual([5]);
    expect(wishes.change('11', [])).toEqual([]);
  });
});
