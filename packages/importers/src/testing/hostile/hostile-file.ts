import type { ReadErrorCode } from '../../read-error.ts';

/** A file designed to break its reader, and the expected result. */
export interface HostileFile {
  /** What is wrong with it. */
  readonly what: string;
  readonly fileName: string;
  readonly make: () => Uint8Array<ArrayBuffer>;
  /** It becomes a drawing, or is refused for a reason of the catalogue. */
  readonly answer: 'ready' | ReadErrorCode;
  /** In the refusal, or in one of the warnings of the drawing. */
  readonly says?: RegExp;
  /** What the drawing must hold. */
  readonly counts?: Partial<Record<'objects' | 'segments' | 'triangles' | 'texts', number>>;
}

/** Makes one entry: what is wrong with the file, the expected answer, its content. */
export type Entry<T> = (
  what: string,
  answer: HostileFile['answer'],
  content: () => T,
  more?: Partial<HostileFile>,
) => HostileFile;

/** @param bytes what the content is written as */
export const entriesOf =
  <T>(fileName: string, bytes: (content: T) => Uint8Array<ArrayBuffer>): Entry<T> =>
  (what, answer, content, more = {}) => ({ what, fileName, answer, make: () => bytes(content()), ...more });

export const bytesOf = (text: string): Uint8Array<ArrayBuffer> => new TextEncoder().encode(text);

/** @returns the texts for 0, 1, … in one */
export function times(count: number, of: (i: number) => string): string {
  const parts: string[] = [];
  for (let i = 0; i < count; i++) parts.push(of(i));
  return parts.join('');
}

/** Corners of a comb: an outline that crosses itself nowhere and isn't convex. @returns [x, y] pairs */
export function comb(corners: number): [number, number][] {
  const teeth = Math.floor((corners - 2) / 2);
  const outline: [number, number][] = [];
  for (let i = 0; i <= teeth; i++) outline.push([i, i % 2 === 0 ? 10 : 100]);
  for (let i = teeth; i >= 0; i--) outline.push([i, i % 2 === 0 ? 0 : 90]);
  return outline;
}
