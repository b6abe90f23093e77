import { expect, it, vi } from 'vitest';
import { ExactFeatures, type FeaturesWorker } from './exact-features';
import type { FromFeaturesWorker, ToFeaturesWorker } from './features-worker';

const features = { corners: [1, 2, 3], edges: [], faces: [] };

function started() {
  const asked: ToFeaturesWorker[] = [];
  const terminate = vi.fn();
  const worker: FeaturesWorker = {
    onmessage: null,
    postMessage: (message) => void asked.push(message),
    terminate,
  };
  const say = (data: FromFeaturesWorker): void => worker.onmessage!({ data } as MessageEvent<FromFeaturesWorker>);
  const start = vi.fn(() => worker);
  return { asked, say, start, terminate, own: new ExactFeatures((object) => `/objects/${object}`, start) };
}

it('asks for an object once, with the first wish', async () => {
  const { own, asked, say, start } = started();
  expect(start).not.toHaveBeenCalled();
  const [first, second] = [own.of(7), own.of(7)];
  say({ object: 7, features });
  expect(await first).toBe(features);
  expect(await second).toBe(features);
  expect(await own.of(7)).toBe(features);
  expect(asked).toEqual([{ object: 7, address: '/objects/7' }]);
});

it('asks again for what could not be had', async () => {
  const { own, asked, say } = started();
  const first = own.of(7);
  say({ object: 7, features: null });
  expect(await first).toBeNull();
  const second = own.of(7);
  say({ object: 7, features });
  expect(await second).toBe(features);
  expect(asked).toHaveLength(2);
});

it('waits no longer than a hand does', async () => {
  vi.useFakeTimers();
  const { own } = started();
  const late = own.of(7);
  vi.advanceTimersByTime(2000);
  expect(await late).toBeNull();
  vi.useRealTimers();
});

it('lets nobody wait once it is closed', async () => {
  const { own, terminate } = started();
  const waiting = own.of(7);
  own.close();
  expect(await waiting).toBeNull();
  expect(terminate).toHaveBeenCalled();
});
