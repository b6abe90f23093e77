import { expect, it, vi } from 'vitest';
import { LineClosed, Newest, Overtaken, WorkerLine, type Call, type Reply, type WorkerEnd } from './worker-line';

interface Calls {
  open: { ask: string; answer: undefined };
  double: { ask: number; answer: number };
}

function started() {
  const workers: (WorkerEnd & { readonly heard: Call[]; readonly terminate: ReturnType<typeof vi.fn> })[] = [];
  const line = new WorkerLine<Calls>(
    () => {
      const heard: Call[] = [];
      const worker = {
        onmessage: null,
        onerror: null,
        heard,
        postMessage: (call: Call) => void heard.push(call),
        terminate: vi.fn(),
      };
      workers.push(worker);
      return worker;
    },
    () => line.tell('open', 'here'),
  );
  const reply = (worker: WorkerEnd, data: Reply): void => worker.onmessage!({ data } as MessageEvent<Reply>);
  return { line, workers, reply };
}

it('greets its worker before the first call, and gives each call its own answer', async () => {
  const { line, workers, reply } = started();
  expect(workers).toHaveLength(0);
  const [one, two] = [line.ask('double', 1), line.ask('double', 2)];
  const [worker] = workers;
  expect(worker!.heard.map(({ id, about }) => [id, about])).toEqual([
    [null, 'open'],
    [0, 'double'],
    [1, 'double'],
  ]);
  reply(worker!, { id: 1, answer: 4 });
  reply(worker!, { id: 0, reason: 'status 404' });
  expect(await two).toBe(4);
  await expect(one).rejects.toThrow('status 404');
});

it('ends all that wait when the worker breaks down, and starts another one with the next call', async () => {
  const { line, workers, reply } = started();
  const lost = line.ask('double', 1);
  workers[0]!.onerror!({ message: '' } as ErrorEvent);
  await expect(lost).rejects.toThrow('it did not load');
  expect(workers[0]!.terminate).toHaveBeenCalled();
  const next = line.ask('double', 3);
  expect(workers).toHaveLength(2);
  reply(workers[1]!, { id: 1, answer: 6 });
  expect(await next).toBe(6);
});

it('ends all that wait when it is closed', async () => {
  const { line } = started();
  const waiting = line.ask('double', 1);
  line.close();
  await expect(waiting).rejects.toThrow(LineClosed);
});

it('of calls in quick succession makes the first and the newest; the others are told that they were overtaken', async () => {
  const newest = new Newest();
  const begun: number[] = [];
  const ends: ((answer: string) => void)[] = [];
  const call = (k: number): Promise<string> =>
    newest.run(() => {
      begun.push(k);
      return new Promise<string>((resolve) => ends.push(resolve));
    });
  const calls = [1, 2, 3].map(call);
  const results = Promise.allSettled(calls);
  expect(begun).toEqual([1]);
  ends[0]!('first');
  await expect(calls[0]).rejects.toThrow(Overtaken); // 3 is meant by now
  expect(begun).toEqual([1, 3]);
  ends[1]!('third');
  expect((await results).map(({ status }) => status)).toEqual(['rejected', 'rejected', 'fulfilled']);
  expect(await calls[2]).toBe('third');
});
