import { Document, WebIO, type Material, type Node } from '@gltf-transform/core';

/** An object of a model on its way out. Coordinates: drawing units, mm; Z up. */
export interface ExportedSolid {
  readonly name: string;
  readonly layer: number;
  /** As `name: value`. */
  readonly facts: readonly string[];
  readonly parts: readonly {
    readonly material: number;
    readonly positions: ArrayLike<number>;
    readonly triangles: ArrayLike<number>;
    readonly edges: ArrayLike<number>;
    /** Where every vertex is a point of its own; red · 65536 + green · 256 + blue of each, if they have colours. */
    readonly points?: { readonly colours: ArrayLike<number> };
  }[];
}

export interface ExportedMaterial {
  readonly name: string;
  /** Red, green, blue, alpha, 0 … 255. */
  readonly colour: readonly [number, number, number, number];
  readonly metalness: number;
  readonly roughness: number;
}

export interface ExportedModel {
  readonly name: string;
  readonly layers: readonly { readonly name: string }[];
  readonly materials: readonly ExportedMaterial[];
  readonly solids: () => Iterable<ExportedSolid>;
}

const METRES = 0.001;
/** Modes of primitives, glTF 2.0, 5.24.4. */
const [POINTS, LINES, TRIANGLES] = [0, 1, 4] as const;
/** glTF keeps colours linear (IEC 61966-2-1). */
const linear = (channel: number): number => {
  const share = channel / 255;
  return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
};

/**
 * A model as binary glTF 2.0: a node a layer, under it a node an object. Vertices are single precision about the middle of
 * their object, whose place the node keeps in full; metres, Y up.
 */
export async function writeGlb({ name, layers, materials, solids }: ExportedModel): Promise<Uint8Array> {
  const document = new Document();
  document.getRoot().getAsset().generator = 'Gull Pane';
  const buffer = document.createBuffer();
  const paints = materials.map((material) => paintOf(document, material));
  const scene = document.createScene(name);
  const nodes = new Map<number, Node>();
  for (const { name: own, layer, facts, parts } of solids()) {
    let parent = nodes.get(layer);
    if (!parent) {
      parent = document.createNode(layers[layer]?.name ?? `Layer ${layer + 1}`);
      nodes.set(layer, parent);
      scene.addChild(parent);
    }
    const [cx, cy, cz] = middleOf(parts);
    const mesh = document.createMesh(own);
    for (const { material, positions, triangles, edges, points } of parts) {
      const about = new Float32Array(positions.length);
      for (let i = 0; i < positions.length; i += 3) {
        about[i] = (positions[i]! - cx) * METRES;
        about[i + 1] = (positions[i + 2]! - cz) * METRES;
        about[i + 2] = -(positions[i + 1]! - cy) * METRES;
      }
      const corners = document.createAccessor().setType('VEC3').setArray(about).setBuffer(buffer);
      const add = (list: ArrayLike<number>, mode: 1 | 4): void => {
        if (list.length === 0) return;
        const indices = document.createAccessor().setType('SCALAR').setArray(Uint32Array.from(list)).setBuffer(buffer);
        const primitive = document
          .createPrimitive()
          .setMode(mode)
          .setAttribute('POSITION', corners)
          .setIndices(indices);
        const paint = paints[material];
        if (paint) primitive.setMaterial(paint);
        mesh.addPrimitive(primitive);
      };
      if (points) {
        const primitive = document.createPrimitive().setMode(POINTS).setAttribute('POSITION', corners);
        // its colour is that of the points, or of the material
        if (points.colours.length > 0)
          primitive.setAttribute(
            'COLOR_0',
            document.createAccessor().setType('VEC3').setArray(lightsOf(points.colours)).setBuffer(buffer),
          );
        else if (paints[material]) primitive.setMaterial(paints[material]);
        mesh.addPrimitive(primitive);
      } else if (triangles.length > 0) add(triangles, TRIANGLES);
      else add(edges, LINES);
    }
    const node = document
      .createNode(own)
      .setMesh(mesh)
      .setTranslation([cx * METRES, cz * METRES, -cy * METRES])
      .setExtras(extrasOf(facts));
    parent.addChild(node);
  }
  // one layer alone would look like a mere stem: a node without anything stands beside it
  if (nodes.size === 1) scene.addChild(document.createNode('plan'));
  return new WebIO().writeBinary(document);
}

/** Packed colours as shares of linear light, three a point. */
function lightsOf(colours: ArrayLike<number>): Float32Array {
  const lights = new Float32Array(3 * colours.length);
  for (let i = 0; i < colours.length; i++)
    for (let channel = 0; channel < 3; channel++)
      lights[3 * i + channel] = linear((colours[i]! >> (16 - 8 * channel)) & 255);
  return lights;
}

function paintOf(document: Document, { name, colour: [r, g, b, a], metalness, roughness }: ExportedMaterial): Material {
  const paint = document
    .createMaterial(name)
    .setBaseColorFactor([linear(r), linear(g), linear(b), a / 255])
    .setMetallicFactor(metalness)
    .setRoughnessFactor(roughness)
    .setDoubleSided(true);
  return a < 255 ? paint.setAlphaMode('BLEND') : paint;
}

function extrasOf(facts: readonly string[]): Record<string, string> {
  const extras: Record<string, string> = {};
  for (const fact of facts) {
    const at = fact.indexOf(': ');
    if (at > 0) extras[fact.slice(0, at)] = fact.slice(at + 2);
  }
  return extras;
}

function middleOf(parts: ExportedSolid['parts']): [number, number, number] {
  const [low, high] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ] as const as [number[], number[]];
  for (const { positions } of parts)
    for (let i = 0; i < positions.length; i++) {
      const axis = i % 3;
      low[axis] = Math.min(low[axis]!, positions[i]!);
      high[axis] = Math.max(high[axis]!, positions[i]!);
    }
  return [0, 1, 2].map((axis) => (low[axis]! <= high[axis]! ? (low[axis]! + high[axis]!) / 2 : 0)) as [
    number,
    number,
    number,
  ];
}
