/** Optional content: what a file lets be switched on and off (ISO 32000-2, 8.11). */

/** As the parsing package tells the group or membership of a stretch of content. */
export interface ContentGroup {
  readonly type?: string;
  readonly id?: string;
  readonly ids?: readonly string[];
}

/** The file's own settings of its groups. */
export interface ContentSettings {
  isVisible(group: ContentGroup): boolean;
  getGroup(id: string): { readonly name?: string | null } | null;
}

export interface ContentLayer {
  readonly name: string;
  /** Whether the file has it switched off. */
  isOff: boolean;
}

const NAMELESS = 'Without a layer';

/** Groups become layers, groups of one name the same; what is in none has a layer of its own. */
export class ContentLayers {
  readonly layers: ContentLayer[] = [];
  readonly #byName = new Map<string, number>();

  constructor(private readonly settings: ContentSettings) {}

  /** @returns the layer of what is in no group */
  get plain(): number {
    return this.named(NAMELESS);
  }

  named(name: string): number {
    const known = this.#byName.get(name);
    if (known !== undefined) return known;
    this.#byName.set(name, this.layers.length);
    return this.layers.push({ name, isOff: false }) - 1;
  }

  /** @returns the layer of a group's content, null if the group has no name to go by */
  of(group: ContentGroup): number | null {
    const id = group.type === 'OCG' ? group.id : group.ids?.[0];
    const name = id === undefined ? null : this.settings.getGroup(id)?.name?.trim();
    if (!name) return null;
    const isNew = !this.#byName.has(name);
    const layer = this.named(name);
    // off only if all groups of the name are
    const isOff = !this.settings.isVisible(group);
    this.layers[layer]!.isOff = isOff && (isNew || this.layers[layer]!.isOff);
    return layer;
  }
}
