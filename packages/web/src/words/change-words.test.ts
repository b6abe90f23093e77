import { expect, it } from 'vitest';
import type { ChangeDto } from '@gull-pane/protocol/comparison';
import { changesAsCsv, clusterInWords, happenedTo, subjectOf } from './change-words';

const change = (more: Partial<ChangeDto>): ChangeDto => ({
  key: '1>1',
  before: 1,
  after: 1,
  ways: ['moved'],
  kind: 'path',
  layer: 'Valves',
  was: {},
  cluster: 0,
  box: { min: [0, 0], max: [10, 20] },
  linesBefore: [],
  linesAfter: [],
  ...more,
});

it('a change is told in words', () => {
  expect(happenedTo(change({ by: [300, 400] }), 'mm')).toBe('Moved by 500 mm');
  const reworded = change({
    ways: ['label', 'layer'],
    label: 'KS-VA-0405B',
    was: { label: 'KS-VA-0405', layer: 'Old' },
  });
  expect(happenedTo(reworded, 'mm')).toBe('Reworded from “KS-VA-0405”, From layer Old');
  expect(subjectOf(reworded)).toBe('KS-VA-0405B');
  expect(subjectOf(change({}))).toBe('Valves');
  expect(clusterInWords([change({}), change({}), change({ ways: ['added'] })])).toBe('1 added, 2 moved');
});

it('the list goes out as CSV, whatever stands in names and notes', () => {
  const text = changesAsCsv([change({ label: 'Say "4", please', by: [3, 4] })], 'mm', () => ({
    state: 'questioned',
    note: 'two\nlines',
    person: 'Ailsa',
  }));
  expect(text.split('\r\n')).toEqual([
    'cluster,object,layer,change,moved by,was,middle,state,note,person',
    '1,"Say ""4"", please",Valves,moved,3 4 mm,,5 10,questioned,"two\nlines",Ailsa',
  ]);
});
