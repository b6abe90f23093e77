import type { ChangeWay } from '@gull-pane/core/compare/match-objects';

/** A box of two axes in flat drawings, of three in models; drawing units. */
export interface ChangeBoxDto {
  readonly min: readonly number[];
  readonly max: readonly number[];
}

/** One object that differs between two revisions, as `GET /api/drawings/:id/comparison` tells it. */
export interface ChangeDto {
  /** Names it in its comparison, whoever asks and however often. */
  readonly key: string;
  /** The object's number in the earlier revision; null if it is new. */
  readonly before: number | null;
  /** In the later one; null if it is gone. */
  readonly after: number | null;
  readonly ways: readonly (ChangeWay | 'added' | 'gone')[];
  /** How far it was moved, drawing units; only of what was moved. */
  readonly by?: readonly number[];
  readonly kind: 'path' | 'text' | 'solid';
  /** Its words or its name; absent where it has none. */
  readonly label?: string;
  readonly layer: string;
  /** What was another before. */
  readonly was: { readonly label?: string; readonly layer?: string };
  /** Round both its forms. */
  readonly box: ChangeBoxDto;
  /** Place of its cluster in the list of clusters. */
  readonly cluster: number;
  /** Runs of points, x, y or x, y, z one after another; drawing units. */
  readonly linesBefore: readonly (readonly number[])[];
  readonly linesAfter: readonly (readonly number[])[];
}

/** Changes that lie beside one another. */
export interface ChangeClusterDto {
  readonly box: ChangeBoxDto;
  /** Places in the list of changes, rising. */
  readonly changes: readonly number[];
}

/** What differs between two revisions of a drawing. */
export interface ComparisonDto {
  readonly from: number;
  readonly to: number;
  /** Coordinates of a point. */
  readonly axes: 2 | 3;
  /** Coordinates that differ by less are the same, drawing units. */
  readonly tolerance: number;
  /** Objects that are the same in both. */
  readonly same: number;
  /** All that differ; more than are listed where there are too many. */
  readonly total: number;
  readonly changes: readonly ChangeDto[];
  readonly clusters: readonly ChangeClusterDto[];
}

/** So many changes are listed. */
export const MOST_CHANGES = 20_000;
