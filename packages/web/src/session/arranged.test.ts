import { describe, expect, it } from 'vitest';
import { panesOf } from '@gull-pane/core/panes/tiling';
import type { ArrangedDto, ArrangedPaneDto } from '@gull-pane/protocol/arrangements';
import { withoutPanes } from './arranged';

const pane = (name: string, drawingId: string): ArrangedPaneDto => ({ pane: name, drawingId }) as ArrangedPaneDto;
const arranged: ArrangedDto = {
  tiling: {
    along: 'row',
    parts: [{ pane: 'a' }, { along: 'column', parts: [{ pane: 'b' }, { pane: 'c' }], shares: [0.5, 0.5] }],
    shares: [0.5, 0.5],
  },
  panes: [pane('a', 'plan'), pane('b', 'model'), pane('c', 'plan')],
  ties: [
    { one: 'a', other: 'b', place: true, scale: true, direction: 'free' },
    { one: 'a', other: 'c', place: true, scale: false, direction: 'free' },
  ],
  active: 'b',
};

describe('an arrangement some of whose drawings are gone', () => {
  it('keeps the other panes, their ties and, if it can, the active one', () => {
    expect(withoutPanes(arranged, () => true)).toEqual(arranged);
    const left = withoutPanes(arranged, (id) => id === 'plan')!;
    expect(panesOf(left.tiling)).toEqual(['a', 'c']);
    expect(left.panes.map((one) => one.pane)).toEqual(['a', 'c']);
    expect(left.ties).toEqual([arranged.ties[1]]);
    expect(left.active).toBe('a');
    expect(withoutPanes(arranged, (id) => id === 'model')).toMatchObject({
      tiling: { pane: 'b' },
      active: 'b',
      ties: [],
    });
  });

  it('is nothing if all are', () => {
    expect(withoutPanes(arranged, () => false)).toBeNull();
  });
});
