/** Whether two values are the same as JSON, whatever the order of their names. */
export const sameJson = (a: unknown, b: unknown): boolean => JSON.stringify(sorted(a)) === JSON.stringify(sorted(b));
const sorted = (value: unknown): unknown =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
    ? Object.fromEntries(
        Object.entries(value)
          .filter(([, own]) => own !== undefined)
          .sort(([a], [b]) => (a < b ? -1 : 1))
          .map(([name, own]) => [name, sorted(own)]),
      )
    : Array.isArray(value)
      ? value.map(sorted)
      : value;
