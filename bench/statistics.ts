/** One measured figure: a ratio against a floor or a peer of the same run, or a plain count. */
export interface Figure {
  readonly id: string;
  readonly value: number;
  /** What it must not go beyond. */
  readonly bar: number;
  readonly ok: boolean;
  readonly unit: string;
  readonly against: string;
  /** Of the figure itself and of what it is held against. */
  readonly samples: readonly number[];
}

export const median = (values: readonly number[]): number => {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
};

/** @param ours and peer taken in turns in one run; same unit */
export function ratio(
  id: string,
  bar: number,
  against: string,
  { ours, peer }: { readonly ours: readonly number[]; readonly peer: readonly number[] },
): Figure {
  const value = median(ours) / median(peer);
  return { id, value, bar, ok: value <= bar, unit: 'ratio', against, samples: [...ours, ...peer].map(shortened) };
}

export function plain(
  id: string,
  bar: number,
  unit: string,
  against: string,
  value: number,
  samples = [value],
): Figure {
  return { id, value, bar, ok: value <= bar, unit, against, samples: samples.map(shortened) };
}

const shortened = (value: number): number => Number(value.toPrecision(4));

export function table(figures: readonly Figure[]): string {
  const rows = figures.map(({ id, value, bar, ok, unit, against }) => [
    id,
    value.toPrecision(3),
    String(bar),
    ok ? 'reached' : 'MISSED',
    unit,
    against,
  ]);
  const all = [['figure', 'value', 'bar', '', 'unit', 'against'], ...rows];
  const widths = all[0]!.map((_, column) => Math.max(...all.map((row) => row[column]!.length)));
  return all
    .map((row) =>
      row
        .map((cell, column) => cell.padEnd(widths[column]!))
        .join('  ')
        .trimEnd(),
    )
    .join('\n');
}

/** @param share 0 … 1 */
export function percentile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(Math.floor(share * sorted.length), sorted.length - 1)] ?? NaN;
}
