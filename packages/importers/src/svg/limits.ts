export interface SvgLimits {
  /** Elements drawn, those repeated by `use`, markers and patterns included. */
  readonly maxElements: number;
  /** Groups within groups. */
  readonly maxDepth: number;
  /** `use` within `use`. */
  readonly maxUseDepth: number;
  /** Elements kept for those that refer to them. */
  readonly maxDefinitions: number;
  /** Steps of all paths together. */
  readonly maxSteps: number;
}

export const defaultSvgLimits: SvgLimits = {
  maxElements: 5_000_000,
  maxDepth: 100_000,
  maxUseDepth: 32,
  maxDefinitions: 2_000_000,
  maxSteps: 60_000_000,
};
