import type { LayerDto } from '@gull-pane/protocol/drawings';

/** What a thread is to compare. */
export interface CompareOrder {
  readonly from: RevisionFolder;
  readonly to: RevisionFolder;
  readonly kind: 'flat' | 'solid';
  /** Coordinates that differ by less are the same, drawing units. */
  readonly tolerance: number;
  /** The comparison goes here, as JSON. */
  readonly outFile: string;
  /** And here, of each object of the later revision, the one of the earlier that it is unchanged: 32-bit integers. */
  readonly sameFile: string;
}

export interface RevisionFolder {
  readonly number: number;
  readonly folder: string;
  readonly layers: readonly LayerDto[];
}
