import { expect, it } from 'vitest';
import { LineClosed, type Call, type Reply, type WorkerEnd } from '../basics/worker-line';
import { PickClient, PickLine } from './pick-client';
import type { Hiding } from './pick-questions';

/** A worker that answers only when it is told to. */
class SlowWorker implements WorkerEnd {
  onmessage: WorkerEnd['onmessage'] = null;
  onerror: WorkerEnd['onerror'] = null;
  readonly received: Call[] = [];
  isTerminated = false;
  postMessage(message: Call): void {
    this.received.push(message);
  }
  terminate(): void {
    this.isTerminated = true;
  }
  get asked(): Call[] {
    return this.received.filter(({ id }) => id !== null);
  }
  answer(index: number, answer: unknown): void {
    this.onmessage?.({ data: { id: this.asked[index]!.id, answer } } as MessageEvent<Reply>);
  }
  fail(index: number): void {
    this.onmessage?.({ data: { id: this.asked[index]!.id, reason: 'status 404' } } as MessageEvent<Reply>);
  }
}

const settle = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));
const place = (x: number): { place: { x: number; y: number }; radius: number } => ({ place: { x, y: 0 }, radius: 1 });

function start(): { line: PickLine; client: PickClient; worker: SlowWorker; started: () => number } {
  const worker = new SlowWorker();
  let starts = 0;
  const line = new PickLine('/tiles/r1/', () => {
    starts++;
    return worker;
  });
  return { line, client: new PickClient(line), worker, started: () => starts };
}

it('starts its worker with the first question, tells it what is hidden, and lets nobody wait once it is closed', async () => {
  const { line, client, worker, started } = start();
  const bytes = Uint8Array.of(0, 255);
  client.hide([3, 4], bytes);
  expect(started()).toBe(0);
  const waiting = [client.ask('at', place(1)), client.ask('at', place(2))];
  expect(started()).toBe(1);
  expect(worker.received.slice(0, 2)).toEqual([
    { id: null, about: 'open', question: '/tiles/r1/' },
    { id: null, about: 'hide', question: { layers: [3, 4], objects: bytes } },
  ]);
  line.close();
  expect(worker.isTerminated).toBe(true);
  for (const answer of waiting) await expect(answer).rejects.toThrow(LineClosed);
});

it('gives every answer to its own question, whatever their order', async () => {
  const { client, worker } = start();
  const first = client.ask('at', place(1));
  const second = client.ask('at', place(2));
  worker.answer(1, [{ entry: 2, distance: 0 }]);
  worker.answer(0, [{ entry: 1, distance: 0 }]);
  expect((await first)[0]!.entry).toBe(1);
  expect((await second)[0]!.entry).toBe(2);
  const failed = client.ask('at', place(3));
  worker.fail(2);
  await expect(failed).rejects.toThrow('status 404');
});

it('of questions of a moving hand asks only the newest, and tells no answer that was overtaken', async () => {
  const { client, worker } = start();
  const told: number[] = [];
  for (const x of [1, 2, 3, 4]) client.askLatest('at', place(x), () => told.push(x));
  expect(worker.asked).toHaveLength(1);
  worker.answer(0, []);
  await settle();
  expect(told).toEqual([]); // 4 is meant by now
  expect(worker.asked).toHaveLength(2);
  worker.answer(1, []);
  await settle();
  expect(told).toEqual([4]);
  client.askLatest('at', place(5), () => told.push(5));
  worker.fail(2);
  await settle();
  client.askLatest('at', place(6), () => told.push(6));
  worker.answer(3, []);
  await settle();
  expect(told).toEqual([4, 6]);
});

it('asks for each pane with what that pane hides, and tells it only when it changes', () => {
  const { line, client, worker } = start();
  const other = new PickClient(line);
  client.hide([1], null);
  other.hide([2], null);
  void client.ask('at', place(1));
  void client.ask('at', place(2));
  void other.ask('at', place(3));
  void client.ask('at', place(4));
  const told = worker.received.map(({ about, question }) =>
    about === 'hide' ? `hide ${(question as Hiding).layers.join()}` : about,
  );
  expect(told).toEqual(['open', 'hide 1', 'at', 'at', 'hide 2', 'at', 'hide 1', 'at']);
});
