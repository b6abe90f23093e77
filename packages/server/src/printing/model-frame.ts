import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { PathBuilder } from '@gull-pane/core/drawing/path';
import type { Colour, Style } from '@gull-pane/core/drawing/model';
import { fillOnGround, inkOnGround } from '@gull-pane/core/drawing/colour';
import { numbersOfRanges } from '@gull-pane/core/drawing/ranges';
import { chainLines } from '@gull-pane/core/hidden-lines/chain-lines';
import { shadedPicture } from '@gull-pane/core/hidden-lines/shaded-picture';
import { SolidScene, type SceneTag } from '@gull-pane/core/hidden-lines/solid-scene';
import { allLines, visibleLines, type Stretches } from '@gull-pane/core/hidden-lines/visible-lines';
import { selectTiles } from '@gull-pane/core/pyramid/select';
import { frameCamera, projectionOf } from '@gull-pane/core/sheets/frame-camera';
import { unitsPerPaperMm } from '@gull-pane/core/sheets/sheet';
import { paperInks, type SheetPart } from '@gull-pane/core/sheets/sheet-part';
import type { SolidLook } from '@gull-pane/core/solid/solid-looks';
import type { Material } from '@gull-pane/core/solid/solid-model';
import { ShapePack } from '@gull-pane/core/solid/packed-shape';
import { openSolidTile } from '@gull-pane/core/solid/solid-tile';
import type { ExportedObject } from '@gull-pane/exporters/exported';
import type { FrameContent } from '@gull-pane/exporters/sheets/printed-set';
import { writePng } from '@gull-pane/exporters/raster/write-png';
import { clipFromDto } from '@gull-pane/protocol/clip-dto';
import type { DrawingDto, LayerDto } from '@gull-pane/protocol/drawings';
import { readTileset } from '@gull-pane/protocol/read-tileset';
import { USUAL_DPI, type SheetFrameDto } from '@gull-pane/protocol/sheet-sets';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import type { TilesetJson } from '@gull-pane/protocol/tileset';

/** A model that goes to paper. */
export interface PrintedModel {
  /** Of the content. */
  readonly folder: string;
  readonly drawing: DrawingDto;
  readonly layers: readonly LayerDto[];
}

/** Coarse forms may be off by so much, and lines are looked at so often, mm on paper. */
const [ERROR_MM, SAMPLE_MM] = [0.05, 0.1] as const;
/** A surface hides what lies so far behind it, mm on paper. */
const SLACK_MM = 0.02;
/** Widths of ISO 128-2: edges, what is hidden, outlines of cuts, lines of hatches. */
const WIDTHS_MM = { edge: 0.18, hidden: 0.13, cut: 0.5, hatch: 0.13, point: 0.35 } as const;
/** Dashes of hidden lines (ISO 128-2, line 02), shortened for thin pens. */
const HIDDEN_DASHES_MM = [1.6, 0.8] as const;
const HATCH_MM = 1.5;
const WHITE: Colour = { r: 255, g: 255, b: 255, a: 255 };
const INK: Colour = { ...paperInks.ink, a: 255 };
const MUTED: Colour = { ...paperInks.muted, a: 255 };

/** What a look draws on paper. */
interface PaperLook {
  readonly surfaces: 'none' | 'plain' | 'gloss';
  readonly isSeenThrough: boolean;
  /** No edges, those that are seen, those with the hidden ones dashed, or all of them. */
  readonly edges: 'none' | 'seen' | 'dashed' | 'all';
  /** Edges in the colours of their materials. */
  readonly inColour: boolean;
}
const vectors = { surfaces: 'none', isSeenThrough: false, inColour: false } as const;
const looks: Readonly<Record<SolidLook, PaperLook>> = {
  lines: { ...vectors, edges: 'all', inColour: true },
  'hidden-line': { ...vectors, edges: 'seen' },
  'hidden-dashed': { ...vectors, edges: 'dashed' },
  shaded: { ...vectors, surfaces: 'plain', edges: 'none' },
  'shaded-edges': { ...vectors, surfaces: 'plain', edges: 'seen' },
  materials: { ...vectors, surfaces: 'gloss', edges: 'none' },
  'see-through': { ...vectors, surfaces: 'plain', isSeenThrough: true, edges: 'all', inColour: true },
};

/** What a frame shows of a model: its edges as vectors, hidden ones taken away or dashed, surfaces as a picture. */
export function modelFrame(model: PrintedModel, frame: SheetFrameDto, onTop: readonly SheetPart[]): FrameContent {
  // a picture's pieces ask for the same again
  let made: readonly ExportedObject[] | null = null;
  const objects = (): readonly ExportedObject[] => (made ??= objectsOf(model, frame));
  const { leftMm, topMm } = frame;
  return {
    layers: [...model.layers, { name: 'Surfaces', colour: '#808080' }],
    toPaper: (x, y) => [leftMm + x, topMm + y],
    mmPerUnit: 1,
    turnRad: 0,
    onTop,
    hrefs: () => objects().flatMap(({ picture }) => (picture ? [picture.href()] : [])),
    objects,
  };
}

/** Objects in mm from the frame's upper left corner, y down. */
function objectsOf({ folder, drawing, layers }: PrintedModel, frame: SheetFrameDto): ExportedObject[] {
  const look = looks[frame.shows.look ?? 'hidden-line'];
  const table = JSON.parse(gunzipSync(readFileSync(join(folder, 'tiles', 'solid.json.gz'))).toString()) as SolidTable;
  const materials = table.materials.map(materialOf);
  const size = { width: frame.widthMm, height: frame.heightMm };
  const { solid, isCoarse } = sceneOf({ folder, drawing, layers }, frame, look, materials, table);
  const out: ExportedObject[] = [];
  if (look.surfaces !== 'none') {
    const perMm = (frame.shows.dpi ?? USUAL_DPI) / 25.4;
    const shaded = shadedPicture(solid.scene, size, perMm, look.isSeenThrough);
    const href = pngHref(shaded, frame.shows.dpi ?? USUAL_DPI);
    out.push(pictureObject(href, size, layers.length));
  }
  const projection = projectionOf(frame, drawing.unit);
  const slackMm = SLACK_MM + (isCoarse ? 2 * ERROR_MM : 0);
  const slack = (nearness: number): number => slackMm * projection.nearnessPerMm(nearness);
  const { edges } = look;
  if (edges === 'none' && solid.scene.pointTags.length === 0) return out;
  const stretches =
    edges === 'all'
      ? allLines(solid.scene, size)
      : visibleLines(solid.scene, { ...size, perUnit: 1 / SAMPLE_MM, slack });
  const inkOf = edgeInk(look, materials);
  out.push(...lineObjects(stretches, solid, look, inkOf, table.layers));
  return out;
}

/** Puts the tiles of a view together. */
function sceneOf(
  { folder, drawing, layers }: PrintedModel,
  frame: SheetFrameDto,
  look: PaperLook,
  materials: readonly Material[],
  table: SolidTable,
): { readonly solid: SolidScene; readonly isCoarse: boolean } {
  const { shows } = frame;
  const projection = projectionOf({ ...frame, leftMm: 0, topMm: 0 }, drawing.unit);
  const hidden = new Set(numbersOfRanges(shows.hiddenObjects, drawing.counts.objects));
  const hiddenNames = new Set(shows.hiddenLayers);
  const hiddenLayers = new Set(layers.filter(({ name }) => hiddenNames.has(name)).map(({ id }) => id));
  const solid = new SolidScene({
    sight: { ...projection, toPicture: projection.toPaper },
    materials,
    volumes: (shows.clips ?? []).map(clipFromDto),
    isShown: (object) => !hidden.has(object) && !hiddenLayers.has(table.layers[object] ?? -1),
    surfaces: look.surfaces,
    hide: look.edges !== 'all',
    hatchSpacing: HATCH_MM * unitsPerPaperMm(frame.view.denominator, drawing.unit),
  });
  const tilesFolder = join(folder, 'tiles');
  const json = JSON.parse(readFileSync(join(tilesFolder, 'tileset.json'), 'utf8')) as TilesetJson;
  const { tiles } = readTileset(json);
  const viewport = { widthPx: frame.widthMm, heightPx: frame.heightMm };
  const chosen = selectTiles(tiles, frameCamera(frame, drawing.unit), viewport, {
    budget: Infinity,
    smallestPx: 0,
    errorPx: ERROR_MM,
  });
  const unpacked = (name: string): Uint8Array => gunzipSync(readFileSync(join(tilesFolder, `${name}.gz`)));
  const packs = new Map<string, ShapePack>();
  for (const index of chosen) {
    const { uri, origin, centre, halfSize } = tiles[index]!;
    const name = uri.slice(uri.lastIndexOf('/') + 1);
    const opened = openSolidTile(unpacked(name));
    for (const pack of opened.packs) if (!packs.has(pack)) packs.set(pack, new ShapePack(unpacked(pack)));
    const tile = opened.decode(packs);
    solid.add(tile, origin, { centre, halfSize });
  }
  solid.finish();
  return { solid, isCoarse: chosen.some((index) => tiles[index]!.coarseness !== undefined) };
}

const materialOf = ({
  name,
  colour: [r, g, b, a],
  metalness,
  roughness,
}: SolidTable['materials'][number]): Material => ({
  name,
  colour: { r, g, b, a },
  metalness,
  roughness,
});

function edgeInk({ inColour }: PaperLook, materials: readonly Material[]): (tag: SceneTag) => Colour {
  return ({ material, colour }) => {
    if (colour) return { r: colour[0], g: colour[1], b: colour[2], a: 255 };
    const own = materials[material]?.colour;
    return inColour && own ? { ...inkOnGround(fillOnGround(own, WHITE), WHITE), a: 255 } : INK;
  };
}

/** Lines of one kind, joined to runs. */
interface Pile {
  readonly layer: number;
  readonly tag: SceneTag;
  readonly isSeen: boolean;
  readonly ink: Colour;
  readonly widthMm: number;
  readonly lines: number[];
}

function lineObjects(
  stretches: Stretches,
  { scene, tags }: SolidScene,
  look: PaperLook,
  inkOf: (tag: SceneTag) => Colour,
  layerOf: readonly number[],
): ExportedObject[] {
  const { line, ends, isSeen } = stretches;
  const tagOf = (k: number): number => {
    const own = line[k]!;
    const isPoint = own >= scene.lineTags.length;
    return isPoint ? scene.pointTags.at(own - scene.lineTags.length) : scene.lineTags.at(own);
  };
  const thins = thinnedBy(stretches, tagOf, tags.length);
  const piles = new Map<string, Pile>();
  for (let k = 0; k < line.length; k++) {
    const number = tagOf(k);
    const tag = tags[number]!;
    if (tag.kind === 'edge' && look.edges === 'none') continue;
    const seen = isSeen[k] === 1;
    // what is hidden is dashed, but for hatches and points
    if (!seen && (look.edges !== 'dashed' || tag.kind === 'hatch' || tag.kind === 'point')) continue;
    const thin = tag.kind === 'edge' ? thins[number]! : 0;
    const { by, fade } = THINNER[thin]!;
    const widthMm = (seen ? WIDTHS_MM[tag.kind] : WIDTHS_MM.hidden) / by;
    const ink = faded(seen ? inkOf(tag) : MUTED, fade);
    const layer = layerOf[tag.object] ?? 0;
    const key = `${layer} ${tag.kind} ${seen} ${thin} ${ink.r} ${ink.g} ${ink.b}`;
    let pile = piles.get(key);
    if (!pile) piles.set(key, (pile = { layer, tag, isSeen: seen, ink, widthMm, lines: [] }));
    for (let i = 4 * k; i < 4 * k + 4; i++) pile.lines.push(ends[i]!);
  }
  // hidden lines first, and layer by layer
  const order = [...piles.values()].sort((a, b) => Number(a.isSeen) - Number(b.isSeen) || a.layer - b.layer);
  return order.flatMap((pile) => [...pathsOf(pile)]);
}

/** Lines that lie so dense that they would cover more than this share of their place are thinner, then fainter. */
const MOST_INK = 0.4;
const THINNER = [
  { by: 1, fade: 1 },
  { by: 1.5, fade: 1 },
  { by: 2.2, fade: 1 },
  { by: 3.5, fade: 1 },
  { by: 3.5, fade: 0.6 },
  { by: 3.5, fade: 0.35 },
] as const;

/** White paper shows through so much of an ink. */
const faded = ({ r, g, b, a }: Colour, share: number): Colour => {
  const [fr, fg, fb] = [r, g, b].map((channel) => Math.round(255 + (channel - 255) * share)) as [
    number,
    number,
    number,
  ];
  return { r: fr, g: fg, b: fb, a };
};

/** By how much the edges of each body are thinned: a place in {@link THINNER}. */
function thinnedBy({ line, ends, isSeen }: Stretches, tagOf: (k: number) => number, tags: number): Uint8Array {
  // length, and the moments of where it lies: an evenly filled rectangle has variances of a twelfth of its sides' squares
  const sums = new Float64Array(MOMENTS * tags);
  for (let k = 0; k < line.length; k++) {
    if (isSeen[k] === 0) continue;
    const [x0, y0, x1, y1] = [ends[4 * k]!, ends[4 * k + 1]!, ends[4 * k + 2]!, ends[4 * k + 3]!];
    const [dx, dy, x, y] = [x1 - x0, y1 - y0, (x0 + x1) / 2, (y0 + y1) / 2];
    const length = Math.sqrt(dx * dx + dy * dy);
    const at = MOMENTS * tagOf(k);
    sums[at]! += length;
    sums[at + 1]! += length * x;
    sums[at + 2]! += length * y;
    sums[at + 3]! += length * (x * x + (dx * dx) / 12);
    sums[at + 4]! += length * (x * y + (dx * dy) / 12);
    sums[at + 5]! += length * (y * y + (dy * dy) / 12);
  }
  return Uint8Array.from({ length: tags }, (_, tag) => {
    const [length, x, y, xx, xy, yy] = sums.subarray(MOMENTS * tag, MOMENTS * tag + MOMENTS) as unknown as [
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    if (length === 0) return 0;
    const [mx, my] = [x / length, y / length];
    const [vxx, vxy, vyy] = [xx / length - mx * mx, xy / length - mx * my, yy / length - my * my];
    const area = 12 * Math.sqrt(Math.max(vxx * vyy - vxy * vxy, 0)) + WIDTHS_MM.edge * Math.sqrt(12 * (vxx + vyy));
    const share = (length * WIDTHS_MM.edge) / Math.max(area, WIDTHS_MM.edge ** 2);
    const enough = THINNER.findIndex(({ by, fade }) => share * fade <= MOST_INK * by);
    return enough < 0 ? THINNER.length - 1 : enough;
  });
}

const MOMENTS = 6;

/** Runs are put into paths of so many corners: readers take them better than one of a million. */
const MOST_CORNERS = 2000;

function* pathsOf({ layer, tag, isSeen, ink, widthMm: width, lines }: Pile): Generator<ExportedObject> {
  const style: Style = { kind: 'line', layer, colour: ink, width, dashes: isSeen ? [] : [...HIDDEN_DASHES_MM] };
  const rest = { id: tag.object, layer, text: null, fillRule: 'nonzero' } as const;
  let path = new PathBuilder();
  if (tag.kind === 'point') {
    const half = WIDTHS_MM.point / 2;
    for (let i = 0; i < lines.length; i += 4) {
      const [x, y] = [lines[i]!, lines[i + 1]!];
      path
        .moveTo(x - half, y - half)
        .lineTo(x + half, y - half)
        .lineTo(x + half, y + half)
        .lineTo(x - half, y + half)
        .close();
      if (path.coords.length < 2 * MOST_CORNERS && i + 4 < lines.length) continue;
      yield { ...rest, path, line: null, fill: { ...style, kind: 'fill', width: 0 } };
      path = new PathBuilder();
    }
    return;
  }
  for (const run of chainLines(lines)) {
    for (let i = 0; i < run.length; i += 2)
      if (i === 0) path.moveTo(run[0]!, run[1]!);
      else path.lineTo(run[i]!, run[i + 1]!);
    if (path.coords.length < 2 * MOST_CORNERS) continue;
    yield { ...rest, path, line: style, fill: null };
    path = new PathBuilder();
  }
  if (!path.isEmpty) yield { ...rest, path, line: style, fill: null };
}

function pictureObject(
  href: string,
  { width, height }: { readonly width: number; readonly height: number },
  layer: number,
): ExportedObject {
  const path = new PathBuilder().moveTo(0, 0).lineTo(width, 0).lineTo(width, height).lineTo(0, height).close();
  const place = { a: width, b: 0, c: 0, d: height, e: 0, f: 0 };
  const picture = { place, clip: null, opacity: 1, href: () => href };
  return { id: -1, layer, path, text: null, line: null, fill: null, fillRule: 'nonzero', picture };
}

function pngHref({ width, height, pixels }: ReturnType<typeof shadedPicture>, dpi: number): string {
  const pieces = [...writePng({ width, height, bands: () => [pixels] }, dpi)];
  return `data:image/png;base64,${Buffer.concat(pieces).toString('base64')}`;
}
