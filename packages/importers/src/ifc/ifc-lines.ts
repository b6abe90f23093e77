import type { IfcAPI } from 'web-ifc';

export interface Line {
  readonly [name: string]: unknown;
}

/** The lines of an IFC file, by their numbers. */
export class IfcLines {
  /** @param onMissing told of each line that others refer to and that can't be read */
  constructor(
    private readonly api: IfcAPI,
    private readonly model: number,
    private readonly onMissing: () => void,
  ) {}

  /** @returns null for what the file refers to but doesn't hold */
  line(id: number): Line | null {
    try {
      return this.api.GetLine(this.model, id) as Line | null;
    } catch {
      this.onMissing();
      return null;
    }
  }

  /** The line that a value refers to. */
  follow(value: unknown): Line | null {
    const id = idOf(value);
    return id === null ? null : this.line(id);
  }

  /** Those that a list refers to. */
  followAll(list: unknown): Line[] {
    if (!Array.isArray(list)) return [];
    return list.map((value: unknown) => this.follow(value)).filter((line) => line !== null);
  }

  nameOf(id: number): string {
    const line = this.line(id);
    return valueOf(line?.Name) || valueOf(line?.LongName);
  }

  /** All lines of a type. */
  *ofType(type: number): Generator<Line> {
    const ids = this.api.GetLineIDsWithType(this.model, type);
    for (let i = 0; i < ids.size(); i++) {
      const line = this.line(ids.get(i));
      if (line) yield line;
    }
  }

  /** Calls back for each pair that the relations of a type tell of. */
  relate(type: number, partsName: string, wholeName: string, take: (part: number, whole: number) => void): void {
    for (const line of this.ofType(type)) {
      const whole = idOf(line[wholeName]);
      const parts = line[partsName];
      if (whole === null || !Array.isArray(parts)) continue;
      for (const part of parts) {
        const id = idOf(part);
        if (id !== null) take(id, whole);
      }
    }
  }
}

/** The line that a value refers to. */
export const idOf = (value: unknown): number | null =>
  typeof value === 'object' && value !== null && 'value' in value && typeof value.value === 'number'
    ? value.value
    : null;

/** A text, number or choice as text; empty for anything else. */
export const valueOf = (value: unknown): string => {
  if (typeof value !== 'object' || value === null || !('value' in value)) return '';
  const plain = value.value;
  return typeof plain === 'string' || typeof plain === 'number' || typeof plain === 'boolean' ? String(plain) : '';
};

/** A number; null for anything else. */
export const numberOf = (value: unknown): number | null => {
  if (typeof value === 'number') return value;
  const text = valueOf(value);
  return text === '' || !Number.isFinite(Number(text)) ? null : Number(text);
};
