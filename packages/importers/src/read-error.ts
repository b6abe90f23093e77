/** A file that cannot be read: says what is wrong, where, and what to do about it. */
export class ReadError extends Error {
  override readonly name = 'ReadError';

  constructor(
    /** From the error catalogue. */
    readonly code: ReadErrorCode,
    message: string,
    /** Place in the source, both from 1. */
    readonly place?: { readonly line: number; readonly column: number },
  ) {
    super(message);
  }
}

export type ReadErrorCode =
  | 'not-svg'
  | 'malformed-xml'
  | 'not-geojson'
  | 'malformed-json'
  | 'malformed-pdf'
  | 'locked-file'
  | 'not-a-model'
  | 'empty-file'
  | 'nothing-to-draw'
  | 'limit-exceeded'
  | 'bad-encoding'
  | 'damaged-file';
