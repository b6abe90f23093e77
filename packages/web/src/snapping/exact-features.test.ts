import { expect, it, vi } from 'vitest';
import type { Call, Reply, WorkerEnd } from '../basics/worker-line';
import { ExactFeatures } from './exact-features';

const features = { corners: [1, 2, 3], edges: [], faces: [] };

function started() {
  const asked: Call[] = [];
  const terminate = vi.fn();
  const worker: WorkerEnd = {
    onmessage: null,
    onerror: null,
    postMessage: (message) => void asked.push(message),
    terminate,
  };
  const say = (reply: { answer: unknown } | { reason: string }): void =>
    worker.onmessage!({ data: { id: asked.at(-1)!.id, ...reply } } as MessageEvent<Reply>);
  const start = vi.fn(() => worker);
  return { asked, say, start, terminate, own: new ExactFeatures((object) => `/objects/${object}`, start) };
}

it('asks for an object once, with the first wish', async () => {
  const { own, asked, say, start } = started();
  expect(start).not.toHaveBeenCalled();
  const [first, second] = [own.of(7), own.of(7)];
  say({ answer: features });
  expect(await first).toBe(features);
  expect(await second).toBe(features);
  expect(await own.of(7)).toBe(features);
  expect(asked).toEqual([{ id: 0, about: 'features', question: '/objects/7' }]);
});

it('asks again for what could not be had', async () => {
  const { own, asked, say } = started();
  const first = own.of(7);
  say({ reason: 'status 503' });
  expect(await first).toBeNull();
  const second = own.of(7);
  say({ answer: features });
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
