import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { seededRandom } from '@gull-pane/core/geometry/random';
import { PackedFiles } from '../src/pyramid/packed-files.ts';

const bytesOf = (count: number): Uint8Array => {
  const random = seededRandom(count);
  return Uint8Array.from({ length: count }, () => 64 * random());
};

describe('packed files', () => {
  it.each(['here', 'beside'] as const)('hold what was given, packed %s, whether small or large', async (where) => {
    const folder = mkdtempSync(join(tmpdir(), 'gull-pane-packed-'));
    const files = new PackedFiles(folder, where);
    const all = new Map([0, 1, 100_000, 17_000_000].map((count) => [`of-${count}`, bytesOf(count)]));
    for (const [name, bytes] of all) await files.add(name, bytes, 1);
    await files.finish();
    for (const [name, bytes] of all)
      expect(Buffer.compare(gunzipSync(readFileSync(join(folder, `${name}.gz`))), bytes)).toBe(0);
  });

  it('lets messages in while many are packed here', async () => {
    const files = new PackedFiles(mkdtempSync(join(tmpdir(), 'gull-pane-packed-')), 'here');
    const bytes = bytesOf(1_000_000);
    const heard: unknown[] = [];
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = ({ data }) => heard.push(data);
    port2.postMessage('done');
    for (let i = 0; i < 200 && heard.length === 0; i++) await files.add('same', bytes, 5);
    port1.close();
    expect(heard).toEqual(['done']);
  });
});
