import { createHash } from 'node:crypto';
import type { FastifyInstance, FastifyRequest } from 'fastify';
import { eq } from 'drizzle-orm';
import { MOST_ARRANGEMENT_BYTES } from '@gull-pane/protocol/arrangements';
import { readDto } from '@gull-pane/protocol/dto';
import { LinkedDto, type LinkIdDto } from '@gull-pane/protocol/links';
import { links } from '../db/schema.ts';
import { Problem } from '../problem.ts';
import { checkPanes } from './arrangements.ts';
import { checked } from './checked.ts';
import type { Services } from './services.ts';

/** Letters that can't be mistaken for one another when they are read out (RFC 4648, base 32). */
const LETTERS = 'abcdefghijklmnopqrstuvwxyz234567';
const LENGTH = 10;

/** Short links: what they open is kept here. The same panes have the same link. */
export function linkRoutes(app: FastifyInstance, { db }: Services): void {
  app.post('/api/links', { bodyLimit: MOST_ARRANGEMENT_BYTES }, async (request, reply): Promise<LinkIdDto> => {
    const linked = checked(() => readDto(LinkedDto, request.body));
    checkPanes(linked.arranged);
    const id = idOfContent(JSON.stringify(linked));
    await db.insert(links).values({ id, linked }).onConflictDoNothing({ target: links.id });
    void reply.status(201);
    return { id };
  });

  app.get('/api/links/:id', async (request: FastifyRequest<{ Params: { id: string } }>): Promise<LinkedDto> => {
    const [row] = await db.select().from(links).where(eq(links.id, request.params.id));
    if (!row) throw new Problem('link-not-found');
    return row.linked;
  });
}

function idOfContent(content: string): string {
  const digest = createHash('sha256').update(content).digest();
  return Array.from(digest.subarray(0, LENGTH), (byte) => LETTERS[byte % LETTERS.length]).join('');
}
