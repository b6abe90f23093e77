/** What `use` elements refer to: subtrees of the file, kept while it streams past. */

export interface DefinedElement {
  readonly name: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: (DefinedElement | string)[];
  readonly line: number;
}

/** Records the elements whose ids are known to be referred to, with all that is in them. */
export class Definitions {
  readonly #byId = new Map<string, DefinedElement>();
  readonly #open: DefinedElement[] = [];
  #count = 0;

  constructor(private readonly references: ReadonlySet<string>) {}

  get count(): number {
    return this.#count;
  }

  open(name: string, attributes: Readonly<Record<string, string>>, line: number): void {
    const { id } = attributes;
    const isWanted = id !== undefined && this.references.has(id);
    const parent = this.#open.at(-1);
    if (!isWanted && !parent) return;
    const element: DefinedElement = { name, attributes, children: [], line };
    parent?.children.push(element);
    this.#open.push(element);
    this.#count++;
    if (isWanted && !this.#byId.has(id)) this.#byId.set(id, element);
  }

  text(data: string): void {
    this.#open.at(-1)?.children.push(data);
  }

  close(): void {
    this.#open.pop();
  }

  find(id: string): DefinedElement | undefined {
    return this.#byId.get(id);
  }

  /** Whether the element is still being read, so that a reference to it would contain itself. */
  isOpen(element: DefinedElement): boolean {
    return this.#open.includes(element);
  }
}

const REFERENCE = /href\s*=\s*(?:"\s*#([^"]+)"|'\s*#([^']+)')/g;
const CARRY = 512;

/** Finds which ids a file refers to, before it is read: only those subtrees need to be kept. */
export class ReferenceScan {
  readonly references = new Set<string>();
  #rest = '';

  write(text: string): void {
    const all = this.#rest + text;
    for (const match of all.matchAll(REFERENCE)) this.references.add((match[1] ?? match[2])!.trim());
    this.#rest = all.slice(-CARRY);
  }
}
