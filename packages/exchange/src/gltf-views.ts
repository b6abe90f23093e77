import { strFromU8, strToU8 } from 'fflate';
import { aboutAxis, multiply, rotate, type Quaternion } from '@gull-pane/core/geometry/quaternion';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import { readDto } from '@gull-pane/protocol/dto';
import { lengthsOf } from './decimal.ts';
import { ViewInFileDto } from './json-views.ts';
import { framedBy, sightOf } from './sight.ts';
import { ExchangeError, type ExchangedDrawing, type ExchangedView, type ReadViews, type WrittenViews } from './view.ts';

interface GltfCamera {
  readonly type: 'orthographic' | 'perspective';
  readonly orthographic?: {
    readonly xmag: number;
    readonly ymag: number;
    readonly znear: number;
    readonly zfar: number;
  };
  readonly perspective?: { readonly yfov: number; readonly aspectRatio?: number; readonly znear: number };
}
interface GltfNode {
  readonly name?: string;
  readonly camera?: number;
  readonly children?: readonly number[];
  readonly translation?: readonly [number, number, number];
  readonly rotation?: readonly [number, number, number, number];
  readonly scale?: unknown;
  readonly matrix?: unknown;
  readonly extras?: { readonly view?: unknown };
}
interface Gltf {
  readonly asset: { readonly version: string; readonly generator?: string };
  readonly scene?: number;
  readonly scenes?: readonly { readonly nodes?: readonly number[] }[];
  readonly nodes?: readonly GltfNode[];
  readonly cameras?: readonly GltfCamera[];
}

/** glTF has Y up: drawings, with Z up, are turned so. */
const TO_Y_UP = aboutAxis({ x: 1, y: 0, z: 0 }, -Math.PI / 2);
const FROM_Y_UP = aboutAxis({ x: 1, y: 0, z: 0 }, Math.PI / 2);

/** Cameras as glTF 2.0 has them; all that it has no words for goes along as extras of their nodes. */
export function writeGltfViews(views: readonly ExchangedView[], { unit }: ExchangedDrawing): WrittenViews {
  const lengths = lengthsOf(unit);
  const metres = (value: number): number => Number(lengths.write(value));
  const gltf: Gltf = {
    asset: { version: '2.0', generator: 'Gull Pane' },
    scene: 0,
    scenes: [{ nodes: views.map((_, k) => k) }],
    nodes: views.map((view, k): GltfNode => {
      const { eye } = sightOf(view.camera, view);
      const { qx: x, qy: y, qz: z, qw: w } = view.camera;
      const q = multiply(TO_Y_UP, { x, y, z, w });
      const { name, group, camera, widthPx, heightPx, shows, comments } = view;
      const told = { name, group, camera, widthPx, heightPx, shows, ...(comments ? { comments } : {}) };
      return {
        name: view.name,
        camera: k,
        // (x, y, z) with Z up is (x, z, −y) with Y up
        translation: [metres(eye.x), metres(eye.z), -metres(eye.y)],
        rotation: [q.x, q.y, q.z, q.w],
        extras: { view: told },
      };
    }),
    cameras: views.map((view): GltfCamera => {
      const { fovRad, height, aspect } = sightOf(view.camera, view);
      if (fovRad !== undefined)
        return { type: 'perspective', perspective: { yfov: fovRad, aspectRatio: aspect, znear: 0.01 } };
      const ymag = metres(height!) / 2;
      return {
        type: 'orthographic',
        orthographic: { xmag: ymag * aspect, ymag, znear: 0, zfar: Math.max(1000, 8 * ymag * Math.max(aspect, 1)) },
      };
    }),
  };
  const losses = views.some(({ picture }) => picture) ? ['Pictures aren’t in a file of glTF cameras.'] : [];
  return { bytes: strToU8(`${JSON.stringify(gltf, null, 2)}\n`), losses };
}

/**
 * Reads cameras of a .gltf; such of our own come back to the last digit.
 * @param depth how far a perspective camera of another program looks, drawing units
 * @throws ExchangeError saying what is wrong
 */
export function readGltfViews(bytes: Uint8Array, drawing: ExchangedDrawing, depth: number): ReadViews {
  const gltf = parsed(bytes);
  const lengths = lengthsOf(drawing.unit);
  const units = (value: number): number => lengths.read(String(value));
  const views: ExchangedView[] = [];
  const nodes = gltf.nodes ?? [];
  const isScaled = nodes.some(({ scale, matrix }) => scale !== undefined || matrix !== undefined);
  const isSeen = new Set<number>();
  const visit = (index: number, at: Vec3, turn: Quaternion): void => {
    const node = nodes[index];
    if (!node || isSeen.has(index)) return;
    isSeen.add(index);
    const [tx, ty, tz] = node.translation ?? [0, 0, 0];
    const moved = rotate(turn, { x: tx, y: ty, z: tz });
    const place = { x: at.x + moved.x, y: at.y + moved.y, z: at.z + moved.z };
    const [x, y, z, w] = node.rotation ?? [0, 0, 0, 1];
    const own = multiply(turn, { x, y, z, w });
    const camera = node.camera === undefined ? undefined : gltf.cameras?.[node.camera];
    if (camera) views.push(keptView(node) ?? foreignView(node, camera, place, own));
    for (const child of node.children ?? []) visit(child, place, own);
  };
  const keptView = ({ extras }: GltfNode): ExchangedView | null => {
    if (extras?.view === undefined) return null;
    try {
      const { name, group, camera, widthPx, heightPx, shows, comments } = readDto(ViewInFileDto, extras.view);
      return { name, group, camera, widthPx, heightPx, shows, ...(comments ? { comments } : {}) };
    } catch {
      return null; // extras of another program
    }
  };
  const foreignView = (node: GltfNode, camera: GltfCamera, place: Vec3, own: Quaternion): ExchangedView => {
    const q = multiply(FROM_Y_UP, own);
    const { orthographic, perspective } = camera;
    const aspect = orthographic ? orthographic.xmag / orthographic.ymag : (perspective?.aspectRatio ?? 1.5);
    const framed = framedBy(
      {
        eye: { x: units(place.x), y: -units(place.z), z: units(place.y) },
        direction: rotate(q, { x: 0, y: 0, z: -1 }),
        up: rotate(q, { x: 0, y: 1, z: 0 }),
        ...(orthographic ? { height: units(2 * orthographic.ymag) } : { fovRad: perspective?.yfov ?? Math.PI / 4 }),
        aspect,
      },
      depth,
    );
    const name = (node.name ?? '').trim().slice(0, 120);
    return {
      name: name === '' ? `Camera ${views.length + 1}` : name,
      group: '',
      ...framed,
      shows: { hiddenLayers: [], hiddenObjects: '', revision: drawing.revision, clips: [] },
    };
  };
  const roots = gltf.scenes?.[gltf.scene ?? 0]?.nodes ?? nodes.map((_, k) => k);
  for (const root of roots) visit(root, { x: 0, y: 0, z: 0 }, { x: 0, y: 0, z: 0, w: 1 });
  if (views.length === 0)
    throw new ExchangeError('The file has no cameras.', 'A drawing is opened from the list of drawings.');
  return { views, losses: isScaled ? ['Scaled nodes are taken as if they weren’t scaled.'] : [] };
}

function parsed(bytes: Uint8Array): Gltf {
  let gltf: unknown;
  try {
    gltf = JSON.parse(strFromU8(bytes));
  } catch {
    gltf = null;
  }
  const { version } = (gltf as { readonly asset?: { readonly version?: unknown } } | null)?.asset ?? {};
  if (typeof version !== 'string' || !version.startsWith('2.'))
    throw new ExchangeError('The file isn’t glTF 2.0.', 'Write it anew as .gltf, version 2.0.');
  return gltf as Gltf;
}
