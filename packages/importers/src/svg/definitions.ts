/** What elements of a file refer to by id: subtrees kept before the file is drawn, so that order doesn't matter. */

export interface DefinedElement {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: (DefinedElement | string)[];
  readonly line: number;
}

/** Records the elements whose ids are known to be referred to, with all that is in them. */
export class Definitions {
  readonly #byId = new Map<string, DefinedElement>();
  readonly #open: (DefinedElement | null)[] = [];
  #kept = 0;
  #count = 0;

  constructor(private readonly references: ReadonlySet<string>) {}

  get count(): number {
    return this.#count;
  }

  open(name: string, attributes: Readonly<Record<string, string>>, line: number): void {
    const { id } = attributes;
    const isWanted = id !== undefined && this.references.has(id);
    if (!isWanted && this.#kept === 0) {
      this.#open.push(null);
      return;
    }
    const element: DefinedElement = { name, attributes, children: [], line };
    this.#open.at(-1)?.children.push(element);
    this.#open.push(element);
    this.#kept++;
    this.#count++;
    if (isWanted && !this.#byId.has(id)) this.#byId.set(id, element);
  }

  text(data: string): void {
    this.#open.at(-1)?.children.push(data);
  }

  close(): void {
    if (this.#open.pop()) this.#kept--;
  }

  find(id: string): DefinedElement | undefined {
    return this.#byId.get(id);
  }
}

/** The elements in a definition, without the text between them. */
export const elementsIn = ({ children }: DefinedElement): DefinedElement[] =>
  children.filter((child): child is DefinedElement => typeof child !== 'string');

const REFERENCE = /href\s*=\s*(?:"\s*#([^"]+)"|'\s*#([^']+)')|url\(\s*["']?#([^"')]+)["']?\s*\)/g;
/** Longest stretch that a reference may be cut over, characters. */
const CARRY = 512;

/** Finds which ids a file refers to, before it is read: only those subtrees need to be kept. */
export class ReferenceScan {
  readonly references = new Set<string>();
  /** Whether the file has style rules. */
  hasStyle = false;
  #rest = '';

  write(text: string): void {
    const all = this.#rest + text;
    for (const match of all.matchAll(REFERENCE)) this.references.add((match[1] ?? match[2] ?? match[3])!.trim());
    this.hasStyle ||= /<(?:\w+:)?style\b/.test(all);
    this.#rest = all.slice(-CARRY);
  }
}
