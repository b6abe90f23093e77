import type { RevisionDto } from '@gull-pane/protocol/revisions';

/** What people call a revision, or its number. */
export function revisionName(revisions: readonly RevisionDto[], number: number): string {
  const own = revisions.find((one) => one.number === number);
  return own?.name ? own.name : `revision ${number}`;
}
