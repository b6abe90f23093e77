import { valueOf, type IfcLines, type Line } from './ifc-lines.ts';
import type { IfcTypes } from './ifc-types.ts';

/** What is said of products beside their shapes, as `name: value`: properties, quantities, materials, classes, systems. */
export class ProductFacts {
  readonly #facts = new Map<number, string[]>();
  /** Sets of properties are often shared. */
  readonly #known = new Map<number, readonly string[]>();

  constructor(
    private readonly lines: IfcLines,
    types: IfcTypes,
  ) {
    const of = (type: number, whole: string, read: (id: number) => readonly string[]): void =>
      lines.relate(type, 'RelatedObjects', whole, (product, id) => this.#add(product, this.#once(id, read)));
    of(types.properties, 'RelatingPropertyDefinition', (id) => this.#ofSet(lines.line(id)));
    of(types.typed, 'RelatingType', (id) => this.#ofType(lines.line(id)));
    of(types.materials, 'RelatingMaterial', (id) => this.#ofMaterial(lines.line(id)));
    of(types.classes, 'RelatingClassification', (id) => this.#ofClass(lines.line(id)));
    of(types.groups, 'RelatingGroup', (id) => [`system: ${lines.nameOf(id)}`]);
  }

  of(product: number): readonly string[] {
    return this.#facts.get(product) ?? [];
  }

  #add(product: number, facts: readonly string[]): void {
    const known = this.#facts.get(product);
    // what stands at the product itself comes before what its type says
    if (!known) this.#facts.set(product, [...facts]);
    else for (const fact of facts) if (!known.includes(fact)) known.push(fact);
  }

  #once(id: number, read: (id: number) => readonly string[]): readonly string[] {
    let facts = this.#known.get(id);
    if (!facts) this.#known.set(id, (facts = read(id)));
    return facts;
  }

  /** A set of properties (IfcPropertySet) or of quantities (IfcElementQuantity). */
  #ofSet(set: Line | null): string[] {
    const properties = this.lines
      .followAll(set?.HasProperties)
      .map((line) => [valueOf(line.Name), valueOf(line.NominalValue)] as const);
    const quantities = this.lines
      .followAll(set?.Quantities)
      .map((line) => [valueOf(line.Name), quantityOf(line)] as const);
    return [...properties, ...quantities].flatMap(([name, value]) =>
      name !== '' && value !== '' ? [`${name}: ${value}`] : [],
    );
  }

  #ofType(type: Line | null): string[] {
    const name = valueOf(type?.Name);
    const sets = this.lines.followAll(type?.HasPropertySets).flatMap((set) => this.#ofSet(set));
    return [...(name === '' ? [] : [`type: ${name}`]), ...sets];
  }

  /** A material, or each one of its layers, profiles, constituents or list (ISO 16739-1, 8.10). */
  #ofMaterial(material: Line | null): string[] {
    return this.#materialNames(material).map((name) => `material: ${name}`);
  }

  #materialNames(line: Line | null, depth = 0): string[] {
    if (!line || depth > MOST_STEPS) return [];
    const { lines } = this;
    const sets = lines.followAll([line.ForLayerSet, line.ForProfileSet, line.Material]);
    const parts = [line.MaterialLayers, line.MaterialProfiles, line.MaterialConstituents, line.Materials];
    const inner = [...sets, ...parts.flatMap((list) => lines.followAll(list))];
    if (inner.length > 0) return [...new Set(inner.flatMap((one) => this.#materialNames(one, depth + 1)))];
    const name = valueOf(line.Name);
    return name === '' ? [] : [name];
  }

  #ofClass(line: Line | null): string[] {
    const code = valueOf(line?.Identification) || valueOf(line?.ItemReference);
    const words = [code, valueOf(line?.Name)].filter((word) => word !== '').join(' ');
    const system = valueOf(this.lines.follow(line?.ReferencedSource)?.Name);
    return words === '' ? [] : [`${system === '' ? 'class' : system}: ${words}`];
  }
}

/** Deepest nesting of a material that is followed: usage, set, layer, material. */
const MOST_STEPS = 4;

/** The value of a quantity, whichever it is of. */
function quantityOf(line: Line): string {
  for (const of of ['Length', 'Area', 'Volume', 'Weight', 'Count', 'Time', 'Number']) {
    const value = valueOf(line[`${of}Value`]);
    if (value !== '') return value;
  }
  return '';
}
