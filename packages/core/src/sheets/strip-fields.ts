/** What the strip of a sheet tells beside its name, number and scale; empty texts are left out. */
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
}
