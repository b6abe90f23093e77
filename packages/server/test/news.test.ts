/** What others change is heard in order, also by those who were away for a moment; who doesn't read is let go. */
import { randomUUID } from 'node:crypto';
import { connect } from 'node:net';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { MarkDto } from '@gull-pane/protocol/marks';
import type { ChangeEvent, EventsBegin } from '@gull-pane/protocol/events';
import { TestServer, smallPlan } from './running-server.ts';

let server: TestServer;
let drawingId: string;
beforeAll(async () => {
  server = await TestServer.start();
  ({
    drawing: { id: drawingId },
  } = await server.import(smallPlan));
});
afterAll(() => server.stop());

const rename = async (name: string): Promise<void> => {
  const answer = await server.fetch(`/api/drawings/${drawingId}`, {
    method: 'PATCH',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name }),
  });
  expect(answer.status).toBe(200);
};

interface Heard {
  readonly kind: string;
  readonly id: string;
  readonly data: unknown;
}

/** A window that listens. */
class Listener {
  readonly heard: Heard[] = [];
  readonly #call = new AbortController();

  async open(lastId?: string): Promise<this> {
    const headers = lastId === undefined ? {} : { 'last-event-id': lastId };
    const answer = await server.fetch('/api/events', { headers, signal: this.#call.signal });
    void this.#read(answer.body!).catch(() => undefined);
    await expect.poll(() => this.begin !== undefined).toBe(true);
    return this;
  }

  get begin(): EventsBegin | undefined {
    return this.heard.find(({ kind }) => kind === 'begin')?.data as EventsBegin | undefined;
  }

  get names(): string[] {
    return this.heard.flatMap(({ kind, data }) => {
      const event = data as ChangeEvent;
      return kind === 'change' && event.kind === 'drawing' ? [event.drawing.name] : [];
    });
  }

  get lastId(): string {
    return this.heard.at(-1)!.id;
  }

  close(): void {
    this.#call.abort();
  }

  async #read(body: ReadableStream<Uint8Array>): Promise<void> {
    let text = '';
    for await (const bytes of body) {
      text += Buffer.from(bytes).toString();
      for (let end = text.indexOf('\n\n'); end >= 0; end = text.indexOf('\n\n')) {
        const lines = new Map(
          text
            .slice(0, end)
            .split('\n')
            .map((line) => line.split(/: (.*)/s) as [string, string]),
        );
        text = text.slice(end + 2);
        if (lines.has('event'))
          this.heard.push({
            kind: lines.get('event')!,
            id: lines.get('id') ?? '',
            data: JSON.parse(lines.get('data')!),
          });
      }
    }
  }
}

describe('news', () => {
  it('are heard in order, each once, also what was missed while one was away', async () => {
    const window = await new Listener().open();
    expect(window.begin).toEqual({ isComplete: false });
    await rename('One');
    await rename('Two');
    await expect.poll(() => window.names).toEqual(['One', 'Two']);
    window.close();
    await rename('Three');
    await rename('Four');
    const back = await new Listener().open(window.lastId);
    expect(back.begin).toEqual({ isComplete: true });
    await rename('Five');
    await expect.poll(() => back.names).toEqual(['Three', 'Four', 'Five']);
    const ids = back.heard.map(({ id }) => Number(id));
    expect(ids).toEqual([...ids].sort((a, b) => a - b));
    back.close();
  });

  it('are there after the server was started anew', async () => {
    const window = await new Listener().open();
    await rename('Before');
    await expect.poll(() => window.names).toEqual(['Before']);
    window.close();
    await rename('While away');
    await server.restart();
    const back = await new Listener().open(window.lastId);
    expect(back.begin).toEqual({ isComplete: true });
    await expect.poll(() => back.names).toEqual(['While away']);
    // a client that received no change can still resume
    back.close();
    const again = await new Listener().open(back.lastId);
    expect(again.begin).toEqual({ isComplete: true });
    expect(again.names).toEqual([]);
    again.close();
  });

  it('that are not kept any more, or never were, make a window ask for everything', async () => {
    for (const id of ['999999999', 'yesterday', '-4']) {
      const window = await new Listener().open(id);
      expect(window.begin).toEqual({ isComplete: false });
      window.close();
    }
  });

  it('are not piled up for who doesn’t read: it is let go', async () => {
    const { hostname, port } = new URL(server.running.url);
    const socket = connect(Number(port), hostname);
    const closed = new Promise((resolve) => socket.once('close', resolve));
    socket.on('error', () => undefined);
    socket.write(`GET /api/events HTTP/1.1\r\nhost: ${hostname}:${port}\r\n\r\n`);
    await new Promise((resolve) => socket.once('data', resolve));
    socket.pause();
    const note = (): MarkDto => ({
      id: randomUUID(),
      kind: 'note',
      layer: 'Checks',
      colour: '#c2410c',
      line: 'solid',
      widthMm: 0.5,
      text: 'x'.repeat(4000),
      points: [
        { x: 0, y: 0, z: 0 },
        { x: 1, y: 1, z: 0 },
      ],
      x: { x: 1, y: 0, z: 0 },
      y: { x: 0, y: 1, z: 0 },
    });
    // more than all buffers between the two hold
    for (let k = 0; k < 60; k++) {
      const put = Array.from({ length: 100 }, note);
      const answer = await server.fetch(`/api/drawings/${drawingId}/marks`, {
        method: 'PATCH',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ put, remove: [], by: randomUUID() }),
      });
      expect(answer.status).toBeLessThan(300);
    }
    socket.resume();
    await closed;
    expect((await server.fetch('/api/health')).status).toBe(200);
  });
});
