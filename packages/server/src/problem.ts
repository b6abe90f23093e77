import { problemDetails, type ProblemCode, type ProblemDetails, type ProblemFacts } from '@gull-pane/protocol/problems';

/** A failure that the catalogue knows; the server answers with its details. */
export class Problem extends Error {
  override readonly name = 'Problem';
  readonly details: ProblemDetails;

  constructor(code: ProblemCode, facts: ProblemFacts = {}) {
    super(facts.detail ?? code);
    this.details = problemDetails(code, facts);
  }
}
