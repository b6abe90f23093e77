import { colourToHex } from '@gull-pane/core/drawing/colour';
import type { Colour } from '@gull-pane/core/drawing/model';
import { inUnit } from '@gull-pane/core/drawing/units';
import type { ExportedDrawing, ExportedObject, ExportedPicture } from '../exported.ts';
import { escaped } from './escaped.ts';
import { pathData } from './path-data.ts';

/** More groups than this aren't told apart by those who read them: then each layer is one. */
const MOST_GROUPS = 4000;
/** Width of lines whose own width is unknown, as a share of the drawing's longer side. */
const HAIR = 1 / 4000;

/**
 * A flat drawing as SVG 1.1, piece by piece: layers are groups with a title, curves stay curves, lengths are millimetres
 * where the drawing's unit is known. A frame becomes the view box, which readers cut at; its twist turns all of it.
 */
export function* writeSvg(drawing: ExportedDrawing): Generator<string> {
  const { name, unit, layers, box, frame = null } = drawing;
  const { x, y, width, height, bearingRad } = frame ?? {
    x: (box.minX + box.maxX) / 2,
    y: (box.minY + box.maxY) / 2,
    bearingRad: 0,
    width: Math.max(box.maxX - box.minX, 1e-9),
    height: Math.max(box.maxY - box.minY, 1e-9),
  };
  const [left, top] = frame ? [x - width / 2, -y - height / 2] : [box.minX, -box.maxY];
  const [widthMm, heightMm] = [inUnit(width, unit, 'mm'), inUnit(height, unit, 'mm')];
  const size = unit === 'none' ? '' : ` width="${widthMm}mm" height="${heightMm}mm"`;
  yield (
    `<?xml version="1.0" encoding="UTF-8"?>\n<svg xmlns="http://www.w3.org/2000/svg" version="1.1"${size} ` +
    `viewBox="${left} ${top} ${width} ${height}">\n<title>${escaped(name)}</title>\n`
  );
  const hair = Math.max(width, height) * HAIR;
  const isTwisted = bearingRad !== 0;
  if (isTwisted) yield `<g transform="rotate(${(-bearingRad * 180) / Math.PI} ${x} ${-y})">\n`;
  let group = 0;
  for (const { layer, objects } of groupsOf(drawing)) {
    yield `<g id="group-${++group}"><title>${escaped(layers[layer]?.name ?? '')}</title>\n`;
    for (const object of objects()) yield `${elementOf(object, layers[layer]?.colour ?? '#000000', hair)}\n`;
    yield '</g>\n';
  }
  if (isTwisted) yield '</g>\n';
  // a reader looks through a group that holds everything: this one stands beside it
  yield '<g/>\n</svg>\n';
}

interface Group {
  readonly layer: number;
  readonly objects: () => Iterable<ExportedObject>;
}

/** Runs of one layer in the order of painting; where they are too many, each layer as a whole. */
function groupsOf({ objects, layers }: ExportedDrawing): Iterable<Group> {
  const runs: { readonly layer: number; readonly from: number; to: number }[] = [];
  let count = 0;
  for (const { layer } of objects()) {
    const last = runs.at(-1);
    if (last?.layer === layer) last.to = count + 1;
    else runs.push({ layer, from: count, to: count + 1 });
    count++;
    if (runs.length > MOST_GROUPS)
      return layers.map((_, layer) => ({
        layer,
        *objects() {
          for (const object of objects()) if (object.layer === layer) yield object;
        },
      }));
  }
  return runGroups(runs, objects);
}

function* runGroups(
  runs: readonly { readonly layer: number; readonly from: number; readonly to: number }[],
  objects: () => Iterable<ExportedObject>,
): Generator<Group> {
  const source = objects()[Symbol.iterator]();
  for (const { layer, from, to } of runs)
    yield {
      layer,
      *objects() {
        for (let k = from; k < to; k++) {
          const next = source.next();
          if (!next.done) yield next.value;
        }
      },
    };
}

const opacity = (name: string, { a }: Colour): string => (a < 255 ? ` ${name}="${Number((a / 255).toFixed(4))}"` : '');

/** The unit square, which a picture fills whatever its sides. */
function pictureElement({ place, clip, opacity: share, href }: ExportedPicture, id: number): string {
  const { a, b, c, d, e, f } = place;
  const matrix = [a, -b, c, -d, e, -f].map((value) => value + 0).join(' ');
  const faint = share < 1 ? ` opacity="${share}"` : '';
  const image = `<image width="1" height="1" preserveAspectRatio="none" transform="matrix(${matrix})"${faint} href="${href()}"/>`;
  if (!clip) return image;
  const [minX, minY, maxX, maxY] = clip;
  const seen = `<rect x="${minX}" y="${-maxY}" width="${maxX - minX}" height="${maxY - minY}"/>`;
  return `<clipPath id="cut-${id}">${seen}</clipPath><g clip-path="url(#cut-${id})">${image}</g>`;
}

function elementOf(
  { id, path, text, line, fill, fillRule, picture }: ExportedObject,
  colour: string,
  hair: number,
): string {
  if (picture) return pictureElement(picture, id);
  if (text) {
    const ink = line ?? fill;
    const paint = ink ? colourToHex(ink.colour) : colour;
    const { x, y, size, angleRad, anchor, weight } = text;
    const turn = angleRad === 0 ? '' : ` transform="rotate(${(-angleRad * 180) / Math.PI} ${x} ${-y + 0})"`;
    const how = `${anchor === 'start' ? '' : ` text-anchor="${anchor}"`}${weight === 'bold' ? ' font-weight="bold"' : ''}`;
    return (
      `<text x="${x}" y="${-y + 0}" font-size="${size}"${how} fill="${paint}"${ink ? opacity('fill-opacity', ink.colour) : ''}` +
      `${turn} xml:space="preserve">${escaped(text.text)}</text>`
    );
  }
  const filled = fill
    ? ` fill="${colourToHex(fill.colour)}"${opacity('fill-opacity', fill.colour)}${fillRule === 'evenodd' ? ' fill-rule="evenodd"' : ''}`
    : ' fill="none"';
  const dashes = line && line.dashes.length > 0 ? ` stroke-dasharray="${line.dashes.join(' ')}"` : '';
  const stroked = line
    ? ` stroke="${colourToHex(line.colour)}" stroke-width="${line.width > 0 ? line.width : hair}"${opacity('stroke-opacity', line.colour)}${dashes}`
    : fill
      ? ''
      : ` stroke="${colour}" stroke-width="${hair}"`;
  return `<path d="${pathData(path!)}"${filled}${stroked}/>`;
}
