import { gzipSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { TestServer, smallPlan } from './running-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await TestServer.start({ GULL_PANE_MAX_UNPACKED_MB: '2' });
});
afterAll(() => server.stop());

const plan = (text: string, declaration = ''): string =>
  `${declaration}<svg xmlns="http://www.w3.org/2000/svg"><path id="Straße" d="M0 0h9" stroke="black"/><text x="1" y="1">${text}</text></svg>`;
const textOf = async (bytes: Uint8Array<ArrayBuffer> | string): Promise<unknown> => {
  const { drawing } = await server.import(bytes);
  expect(drawing.status).toBe('ready');
  return (await server.json<{ text: { text: string } }>(`/api/drawings/${drawing.id}/objects/1`)).text.text;
};
const copy = (bytes: Uint8Array): Uint8Array<ArrayBuffer> => Uint8Array.from(bytes);

describe('a file is read', () => {
  const words = 'Süd Ø600 – 潮';
  const utf16le = Buffer.from(`\ufeff${plan(words)}`, 'utf16le');

  it.each([
    ['as UTF-8', copy(Buffer.from(plan(words)))],
    ['as UTF-8 with a byte order mark', copy(Buffer.from(`\ufeff${plan(words)}`))],
    ['as UTF-16, little end first', copy(utf16le)],
    ['as UTF-16, big end first', copy(Buffer.from(utf16le).swap16())],
    ['packed', copy(gzipSync(plan(words)))],
    ['packed and as UTF-16', copy(gzipSync(utf16le))],
  ])('%s', async (_how, bytes) => {
    expect(await textOf(bytes)).toBe(words);
  });

  it('in the encoding that it declares', async () => {
    const text = plan('Süd Ø600', '<?xml version="1.0" encoding="ISO-8859-1"?>');
    expect(await textOf(copy(Buffer.from(text, 'latin1')))).toBe('Süd Ø600');
  });
});

describe('a file is refused', () => {
  const fault = async (bytes: Uint8Array<ArrayBuffer>): Promise<unknown> => (await server.import(bytes)).job.error;

  it('when it says an encoding that nobody knows, or holds bytes that are no text', async () => {
    const unknown = copy(Buffer.from(plan('a', '<?xml version="1.0" encoding="kelpie-7"?>')));
    expect(await fault(unknown)).toMatchObject({
      code: 'bad-encoding',
      detail: expect.stringContaining('kelpie-7') as string,
    });
    expect(await fault(copy(Buffer.concat([Buffer.from('<svg>'), Buffer.of(0xff, 0xfe, 0xfd)])))).toMatchObject({
      code: 'bad-encoding',
    });
  });

  it('when it is packed and damaged or cut off', async () => {
    const packed = gzipSync(smallPlan);
    expect(await fault(copy(packed.subarray(0, packed.length - 20)))).toMatchObject({ code: 'damaged-file' });
    const damaged = Buffer.from(packed);
    damaged.fill(0x55, 40, 60);
    expect(await fault(copy(damaged))).toMatchObject({ code: 'damaged-file' });
  });

  it('when it unpacks to more than the limit, which is named', async () => {
    const bomb = gzipSync(
      Buffer.concat([Buffer.from('<svg xmlns="http://www.w3.org/2000/svg">'), Buffer.alloc(20_000_000, 0x20)]),
    );
    expect(bomb.length).toBeLessThan(50_000);
    expect(await fault(copy(bomb))).toMatchObject({
      code: 'limit-exceeded',
      detail: expect.stringContaining('GULL_PANE_MAX_UNPACKED_MB') as string,
    });
  });
});
