import { beforeEach, expect, it } from 'vitest';
import { comeBack } from '@gull-pane/core/drills/come-back';
import { planCamera } from '@gull-pane/core/camera/camera';
import { bestOf, useWarmUp } from './warm-up-store';

const begun = {
  goal: 'Come back.',
  camera: planCamera({ x: 0, y: 0, z: 0 }, 1),
  marked: [],
  steps: 1,
  reached: () => 1,
};
const begin = (beganMs: number): void =>
  useWarmUp.getState().begin({ drill: comeBack, begun, pane: '1', drawing: 'd', beganMs, reached: 0, acts: 0 });

beforeEach(() => useWarmUp.setState({ running: null, last: null, records: [] }));

it('a drill that is done is told beside the best before it, and kept', () => {
  begin(1000);
  useWarmUp.getState().move({ acts: 3 });
  useWarmUp.getState().finish(5000, '2026-11-30T08:00:00Z');
  expect(useWarmUp.getState().last).toMatchObject({ record: { ms: 4000, acts: 3 }, bestBefore: null });
  begin(0);
  useWarmUp.getState().move({ acts: 1 });
  useWarmUp.getState().finish(2500, '2026-11-30T08:01:00Z');
  const { last, records, running } = useWarmUp.getState();
  expect(last!.bestBefore).toMatchObject({ ms: 4000 });
  expect(running).toBeNull();
  expect(bestOf(records, 'come-back')).toMatchObject({ ms: 2500, acts: 1 });
  expect(bestOf(records, 'find-tag')).toBeNull();
});

it('one that is left leaves nothing behind', () => {
  begin(0);
  useWarmUp.getState().leave();
  useWarmUp.getState().finish(9000, '2026-11-30T08:02:00Z');
  expect(useWarmUp.getState().records).toEqual([]);
});
