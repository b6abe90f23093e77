/** What the strip of a sheet says beside its name, number and scale; empty texts are left out. */
export interface StripFields {
  /** Whose drawing it is. */
  readonly project: string;
  /** What the drawing is called. */
  readonly title: string;
  readonly number: string;
  readonly revision: string;
  readonly author: string;
  /** As it is printed. */
  readonly date: string;
  /** What was changed with each revision, the oldest first; absent for none. */
  readonly revisions?: readonly RevisionNote[];
}

/** A row of the table of revisions. */
export interface RevisionNote {
  readonly revision: string;
  readonly date: string;
  readonly what: string;
  readonly author: string;
}
