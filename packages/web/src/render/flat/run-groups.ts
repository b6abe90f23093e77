import type { StyleRun } from '@gull-pane/core/pyramid/tile-format';

/** A stretch of a geometry's indices that is drawn with one material. */
export interface DrawGroup {
  start: number;
  count: number;
  materialIndex: number;
}

/**
 * Puts the runs that shall be drawn together to as few stretches as possible: runs that follow one another and take the
 * same material are one.
 * @param materialOf index of the material of a style; −1 leaves the run out
 */
export function groupRuns(runs: readonly StyleRun[], materialOf: (style: number) => number): DrawGroup[] {
  const groups: DrawGroup[] = [];
  for (const { style, start, count } of runs) {
    const materialIndex = materialOf(style);
    if (materialIndex < 0 || count === 0) continue;
    const last = groups.at(-1);
    if (last?.materialIndex === materialIndex && last.start + last.count === start) last.count += count;
    else groups.push({ start, count, materialIndex });
  }
  return groups;
}

export const indicesIn = (groups: readonly DrawGroup[]): number => groups.reduce((sum, { count }) => sum + count, 0);
