import type { FastifyReply } from 'fastify';
import { Problem } from '../problem.ts';

/** Where the picture of something is; it changes with the version, so that browsers may keep each for good. */
export const pictureAddress = (path: string, version: number, hasPicture: boolean): string =>
  hasPicture ? `${path}/picture?v=${version}` : '';

/** Answers with a picture that is kept as a data address. @throws Problem not-found if there is none */
export function sendPicture(reply: FastifyReply, picture: string): FastifyReply {
  const [, type, base64] = /^data:(image\/(?:webp|png));base64,(.*)$/.exec(picture) ?? [];
  if (type === undefined || base64 === undefined) throw new Problem('not-found');
  return reply
    .type(type)
    .header('cache-control', 'private, max-age=31536000, immutable')
    .send(Buffer.from(base64, 'base64'));
}
