import type { FastifyReply, FastifyRequest } from 'fastify';
import type { Problem } from '../problem.ts';
import type { Blob, ByteRange } from '../storage/blob-store.ts';

/**
 * Sends a blob that never changes under its address: by part where one is asked for, not at all where the client has it
 * (RFC 9110, 13.1.2, 13.1.5 and 14.2).
 * @param etag of the representation that is sent
 * @param isGzip whether the blob is that representation in gzip, which the client takes
 * @param open gets the blob, or a part of it
 * @throws Problem that `missing` makes if there is none
 */
export async function sendBlob(
  { headers }: FastifyRequest,
  reply: FastifyReply,
  { etag, isGzip = false }: { readonly etag: string; readonly isGzip?: boolean },
  open: (range?: ByteRange) => Promise<Blob | null>,
  missing: () => Problem,
): Promise<FastifyReply> {
  void reply.header('etag', etag).header('accept-ranges', 'bytes');
  if (namesEtag(headers['if-none-match'], etag)) return reply.status(304).send();
  const ifRange = headers['if-range'];
  const asked = ifRange === undefined || ifRange === etag ? headers.range : undefined;
  const range = asked === undefined ? null : rangeOf(asked);
  const blob = await open(range && !('last' in range) ? range : undefined);
  if (!blob) throw missing();
  if (isGzip) void reply.header('content-encoding', 'gzip');
  const { bytes } = blob;
  if (range === null) return reply.header('content-length', bytes).send(blob.stream);
  const [start, end] =
    'last' in range ? [Math.max(0, bytes - range.last), bytes - 1] : [range.start, Math.min(range.end, bytes - 1)];
  if (start >= bytes || ('last' in range && range.last === 0)) {
    blob.stream.destroy();
    return reply.status(416).header('content-range', `bytes */${bytes}`).send();
  }
  let { stream } = blob;
  if ('last' in range) {
    stream.destroy();
    const part = await open({ start, end });
    if (!part) throw missing();
    ({ stream } = part);
  }
  return reply
    .status(206)
    .header('content-range', `bytes ${start}-${end}/${bytes}`)
    .header('content-length', end - start + 1)
    .send(stream);
}

const namesEtag = (header: string | undefined, etag: string): boolean =>
  header !== undefined &&
  header.split(',').some((one) => one.trim().replace(/^W\//, '') === etag || one.trim() === '*');

/** @returns null for what isn't one range of bytes: the whole is sent then */
function rangeOf(header: string): ByteRange | { readonly last: number } | null {
  const [, first, last] = /^bytes=(\d{0,15})-(\d{0,15})$/.exec(header.trim()) ?? [];
  if (first === undefined || last === undefined || (first === '' && last === '')) return null;
  if (first === '') return { last: Number(last) };
  const range = { start: Number(first), end: last === '' ? Number.MAX_SAFE_INTEGER : Number(last) };
  return range.end < range.start ? null : range;
}
