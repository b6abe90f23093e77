/** Large files are sent piece by piece and go on where they were; a file that is sent twice comes in once. */
import { randomUUID } from 'node:crypto';
import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { DrawingDto, ImportAcceptedDto } from '@gull-pane/protocol/drawings';
import { TestServer, problemOf, smallPlan } from './running-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start();
});
afterAll(() => server.stop());

const tus = { 'tus-resumable': '1.0.0' };
const metadataOf = (values: Readonly<Record<string, string>>): string =>
  Object.entries(values)
    .map(([name, value]) => `${name} ${Buffer.from(value).toString('base64')}`)
    .join(',');
const begin = (length: number, values: Readonly<Record<string, string>>): Promise<Response> =>
  server.fetch('/api/uploads', {
    method: 'POST',
    headers: { ...tus, 'upload-length': String(length), 'upload-metadata': metadataOf(values) },
  });
const begun = async (length: number, values: Readonly<Record<string, string>>): Promise<string> => {
  const answer = await begin(length, values);
  expect(answer.status).toBe(201);
  return answer.headers.get('location')!;
};
const piece = (at: string, offset: number, bytes: Uint8Array<ArrayBuffer>): Promise<Response> =>
  server.fetch(at, {
    method: 'PATCH',
    headers: { ...tus, 'upload-offset': String(offset), 'content-type': 'application/offset+octet-stream' },
    body: bytes,
  });
const offsetOf = async (at: string): Promise<[number, string | null]> => {
  const { status, headers } = await server.fetch(at, { method: 'HEAD', headers: tus });
  return [status, headers.get('upload-offset')];
};
const bytes = Uint8Array.from(Buffer.from(smallPlan));
const half = Math.floor(bytes.length / 2);
const left = (): Promise<string[]> => readdir(join(server.dataFolder, 'uploads'));

describe('a file that is sent piece by piece', () => {
  it('goes on where it was, also after the server was started anew, and becomes a drawing', async () => {
    const at = await begun(bytes.length, { filename: 'Pipes.svg' });
    expect((await piece(at, 0, bytes.slice(0, half))).status).toBe(204);
    await server.restart();
    expect(await offsetOf(at)).toEqual([200, String(half)]);
    // a piece that doesn't begin there is refused
    expect((await piece(at, half + 5, bytes.slice(half + 5))).status).toBe(409);
    const last = await piece(at, half, bytes.slice(half));
    expect(last.status).toBe(202);
    const { drawingId, jobId } = (await last.json()) as ImportAcceptedDto;
    expect(at.endsWith(jobId)).toBe(true);
    expect((await server.ended(jobId)).state).toBe('done');
    expect(await server.json<DrawingDto>(`/api/drawings/${drawingId}`)).toMatchObject({
      name: 'Pipes',
      status: 'ready',
    });
    // a client that lost the last response sees that the upload is complete
    expect(await offsetOf(at)).toEqual([200, String(bytes.length)]);
    expect(await left()).toEqual([]);
  });

  it('becomes the next content of a drawing', async () => {
    const { drawing } = await server.import(smallPlan);
    const at = await begun(bytes.length, { filename: 'Next.svg', drawing: drawing.id });
    const accepted = (await (await piece(at, 0, bytes)).json()) as ImportAcceptedDto;
    expect(accepted.drawingId).toBe(drawing.id);
    await server.ended(accepted.jobId);
    expect((await server.json<DrawingDto>(`/api/drawings/${drawing.id}`)).revision).toBe(2);
  });

  it('is refused with the usual reasons: unknown content, too large, no such drawing', async () => {
    const wrong = Uint8Array.from(Buffer.from('just words'));
    const text = await piece(await begun(wrong.length, { filename: 'Words.txt' }), 0, wrong);
    expect(text.status).toBe(422);
    expect((await problemOf(text)).detail).toContain('Words.txt is not XML, JSON');
    const huge = await begin(2 * 1024 ** 3, { filename: 'Large.svg' });
    expect(huge.status).toBe(413);
    expect((await problemOf(huge)).title).toContain('too large');
    const nobodys = await piece(await begun(bytes.length, { filename: 'A.svg', drawing: randomUUID() }), 0, bytes);
    expect(nobodys.status).toBe(404);
    const list = await server.json<DrawingDto[]>('/api/drawings');
    expect(list.some(({ name }) => name === 'Words' || name === 'A')).toBe(false);
    expect(await left()).toEqual([]);
  });

  it('is thrown away when it is given up', async () => {
    const at = await begun(bytes.length, { filename: 'Pipes.svg' });
    await piece(at, 0, bytes.slice(0, half));
    expect((await server.fetch(at, { method: 'DELETE', headers: tus })).status).toBe(204);
    expect((await offsetOf(at))[0]).toBe(404);
    expect(await left()).toEqual([]);
  });

  it('needs the token where there is one', async () => {
    const guarded = await TestServer.start({ GULL_PANE_TOKEN: 'a-secret-of-many-letters' });
    try {
      expect((await guarded.fetch('/api/uploads', { method: 'POST', headers: tus })).status).toBe(401);
    } finally {
      await guarded.stop();
    }
  });
});

it('a file that is sent again with the same key comes in once', async () => {
  const key = randomUUID();
  const send = async (idempotencyKey: string): Promise<Response> => {
    const body = new FormData();
    body.append('file', new File([smallPlan], 'Once.svg'));
    return server.fetch('/api/drawings', { method: 'POST', body, headers: { 'idempotency-key': idempotencyKey } });
  };
  const first = (await (await send(key)).json()) as ImportAcceptedDto;
  expect(await (await send(key)).json()).toEqual(first);
  await server.ended(first.jobId);
  expect(await (await send(key)).json()).toEqual(first);
  const list = await server.json<DrawingDto[]>('/api/drawings');
  expect(list.filter(({ name }) => name === 'Once')).toHaveLength(1);
  expect((await send('again')).status).toBe(400);
});

it('a file that is sent several times at once under one key is one drawing', async () => {
  const key = randomUUID();
  const before = (await server.json<DrawingDto[]>('/api/drawings')).length;
  const answers = await Promise.all(
    Array.from({ length: 6 }, () => {
      const body = new FormData();
      body.append('file', new File([smallPlan], 'Chamber.svg'));
      return server.fetch('/api/drawings', { method: 'POST', body, headers: { 'idempotency-key': key } });
    }),
  );
  expect(answers.map(({ status }) => status)).toEqual(answers.map(() => 202));
  const accepted = (await Promise.all(answers.map((answer) => answer.json()))) as ImportAcceptedDto[];
  expect(new Set(accepted.map(({ drawingId }) => drawingId)).size).toBe(1);
  expect((await server.ended(accepted[0]!.jobId)).state).toBe('done');
  expect(await server.json('/api/drawings')).toHaveLength(before + 1);
});
