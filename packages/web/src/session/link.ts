import { readDto } from '@gull-pane/protocol/dto';
import { LinkedDto } from '@gull-pane/protocol/links';
import type { ArrangedDto } from '@gull-pane/protocol/arrangements';
import type { DrawingContent } from '../store/drawing-store';

/** Before what a long link holds: another number when it is written in another way. */
const WRITTEN_AS = '1.';

/** Why a link opens nothing. */
export class LinkError extends Error {
  override readonly name = 'LinkError';
}

/** What a link is made of. */
export interface Linkable {
  readonly arranged: () => ArrangedDto;
  readonly contentOf: (drawingId: string) => DrawingContent | undefined;
}

/** All that a link to what the panes show now opens. Trails stay in this browser. */
export function linkedNow({ arranged, contentOf }: Linkable): LinkedDto {
  const { panes, ...rest } = arranged();
  const ids = [...new Set(panes.map(({ drawingId }) => drawingId))];
  return {
    arranged: { ...rest, panes: panes.map((pane) => ({ ...pane, trail: { views: [], current: 0 } })) },
    drawings: ids.flatMap((id) => {
      const drawing = contentOf(id)?.drawing;
      return drawing ? [{ id, name: drawing.name, kind: drawing.kind, objects: drawing.counts.objects }] : [];
    }),
  };
}

async function through(
  bytes: Uint8Array<ArrayBuffer>,
  stream: CompressionStream | DecompressionStream,
): Promise<Uint8Array> {
  const squeezed = new Blob([bytes]).stream().pipeThrough(stream);
  return new Uint8Array(await new Response(squeezed).arrayBuffer());
}

/** What a link opens as letters for an address: JSON, deflated (RFC 1951), in base 64 for addresses (RFC 4648). */
export async function writeLink(linked: LinkedDto): Promise<string> {
  const bytes = await through(new TextEncoder().encode(JSON.stringify(linked)), new CompressionStream('deflate-raw'));
  const base64 = btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(''));
  return WRITTEN_AS + base64.replaceAll('+', '-').replaceAll('/', '_').replaceAll('=', '');
}

/** @throws LinkError that says what is wrong with it */
export async function readLink(written: string): Promise<LinkedDto> {
  if (written === '') throw new LinkError('It is empty: only its beginning was copied.');
  if (!/^[1-9]\d*\./.test(written)) throw new LinkError('It is no link of Gull Pane, or its beginning was lost.');
  if (!written.startsWith(WRITTEN_AS)) throw new LinkError('It was made by a newer version than this server runs.');
  try {
    const base64 = written.slice(WRITTEN_AS.length).replaceAll('-', '+').replaceAll('_', '/');
    const bytes = Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));
    const json = new TextDecoder('utf-8', { fatal: true }).decode(
      await through(bytes, new DecompressionStream('deflate-raw')),
    );
    return readDto(LinkedDto, JSON.parse(json));
  } catch {
    throw new LinkError('It is damaged: a part of it is missing, or was changed on its way.');
  }
}

/** The address of a short link. */
export const shortLink = (id: string): string => `${location.origin}/v/${id}`;
/** The address of a link that holds everything itself. */
export const longLink = (written: string): string => `${location.origin}/v#${written}`;
