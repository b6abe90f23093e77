import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { ApiError } from '../api/client';
import { createSaver } from './saver';

const away = (): ApiError => new ApiError('The server can’t be reached', '', '', 0);

describe('saving', () => {
  beforeEach(() => vi.useFakeTimers());
  afterEach(() => vi.useRealTimers());

  it('sends one change after the other, in their order, whatever each takes', async () => {
    const saver = createSaver();
    const sent: string[] = [];
    const send = (name: string, ms: number) => async (): Promise<void> => {
      await new Promise((resolve) => setTimeout(resolve, ms));
      sent.push(name);
    };
    const all = [saver.getState().save(send('slow', 300)), saver.getState().save(send('quick', 1))];
    expect(saver.getState().waiting).toBe(2);
    await vi.advanceTimersByTimeAsync(400);
    await Promise.all(all);
    expect(sent).toEqual(['slow', 'quick']);
    expect(saver.getState()).toMatchObject({ waiting: 0, isReachable: true });
    expect(saver.getState().savedAtMs).not.toBeNull();
  });

  it('keeps what can’t be sent and everything after it, says so, and sends all once the server is back', async () => {
    const saver = createSaver();
    let isThere = false;
    const sent: number[] = [];
    const send = (name: number) => (): Promise<void> => {
      if (!isThere) return Promise.reject(away());
      sent.push(name);
      return Promise.resolve();
    };
    const all = [1, 2, 3].map((name) => saver.getState().save(send(name)));
    await vi.advanceTimersByTimeAsync(20_000);
    expect(sent).toEqual([]);
    expect(saver.getState()).toMatchObject({ waiting: 3, isReachable: false });
    isThere = true;
    saver.getState().retry();
    await vi.advanceTimersByTimeAsync(0);
    await Promise.all(all);
    expect(sent).toEqual([1, 2, 3]);
    expect(saver.getState()).toMatchObject({ waiting: 0, isReachable: true });
  });

  it('goes on after a change that was refused, which alone is told', async () => {
    const saver = createSaver();
    const refused = saver.getState().save(() => Promise.reject(new ApiError('No', '', '', 400)));
    const next = saver.getState().save(() => Promise.resolve());
    await expect(refused).rejects.toThrow(ApiError);
    await next;
    expect(saver.getState()).toMatchObject({ waiting: 0, isReachable: true });
  });
});
