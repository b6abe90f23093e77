import { XMLParser } from 'fast-xml-parser';
import { SyntaxValidator } from 'fast-xml-validator';
import { strFromU8, unzipSync } from 'fflate';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import { numbersOfRanges, rangesOf } from '@gull-pane/core/drawing/ranges';
import { MOST_RANGES } from '@gull-pane/protocol/cards';
import { clipsOfPlanes, type ClipPlane } from '../clip-planes.ts';
import { lengthsOf, type Lengths } from '../decimal.ts';
import { objectsByToolId } from '../object-names.ts';
import { framedBy } from '../sight.ts';
import { ExchangeError, type ExchangedDrawing, type ExchangedView, type ReadViews } from '../view.ts';

/** An element as it is read: attributes with `@` before their names. */
type Node = Readonly<Record<string, unknown>>;

/** All that is unpacked together may be so large, bytes. */
const MOST_BYTES = 512 * 1024 * 1024;

const parser = new XMLParser({
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  parseTagValue: false,
  parseAttributeValue: false,
  trimValues: true,
  processEntities: true,
  removeNSPrefix: true,
});

const nodes = (value: unknown): readonly Node[] =>
  (Array.isArray(value) ? value : value === undefined || value === '' ? [] : [value]).filter(
    (one): one is Node => typeof one === 'object' && one !== null,
  );
const node = (value: unknown): Node | undefined => nodes(value)[0];
const text = (value: unknown): string => {
  const own: unknown = Array.isArray(value) ? value[0] : value;
  if (typeof own === 'string') return own;
  return typeof own === 'object' && own !== null && '#text' in own ? String((own as Node)['#text']) : '';
};

export interface BcfLimits {
  /** So many clips may cut. */
  readonly mostClips: number;
  /** Sets of objects may be so long, letters. */
  readonly mostRanges?: number;
  /** How far a perspective camera looks, drawing units. */
  readonly depth: number;
}

/**
 * Reads the viewpoints of a BCF file, versions 2.0 to 3.0: each becomes a view, named after its topic.
 * @throws ExchangeError saying what is wrong and in which file
 */
export function readBcf(bytes: Uint8Array, drawing: ExchangedDrawing, limits: BcfLimits): ReadViews {
  const files = unpacked(bytes);
  const version = text(node(xml(files, 'bcf.version')['Version'])?.['@VersionId']);
  if (!/^(2\.[01]|3\.0)/.test(version))
    throw new ExchangeError(`The file is of BCF version “${version}”.`, 'Versions 2.0, 2.1 and 3.0 can be read.');
  const losses = new Set<string>();
  const found: { readonly index: number; readonly view: ExchangedView }[] = [];
  const markups = Object.keys(files).filter((name) => /^[^/]+\/markup\.bcf$/i.test(name));
  for (const name of markups) {
    const markup = node(xml(files, name)['Markup']) ?? {};
    const topic = node(markup['Topic']) ?? {};
    const index = Number(text(topic['Index']) || Infinity);
    const folder = name.slice(0, name.indexOf('/'));
    for (const [k, point] of viewpointsOf(markup, topic).entries()) {
      const path = `${folder}/${text(point['Viewpoint'])}`;
      if (text(point['Viewpoint']) === '' || !files[path]) {
        losses.add('Topics without a viewpoint are left out.');
        continue;
      }
      const info = node(xml(files, path)['VisualizationInfo']) ?? {};
      const view = viewOf(info, path, drawing, limits, losses);
      if (!view) continue;
      const title = (text(topic['Title']) || 'View').slice(0, 110);
      const picture = files[`${folder}/${text(point['Snapshot'])}`];
      const comments = commentsOf(markup, topic, text(point['@Guid']), k === 0);
      found.push({
        index,
        view: {
          ...view,
          name: k === 0 ? title : `${title}, ${k + 1}`,
          group: labelOf(topic),
          ...(comments.length > 0 ? { comments } : {}),
          ...(picture ? { picture } : {}),
        },
      });
    }
    if (viewpointsOf(markup, topic).length === 0) losses.add('Topics without a viewpoint are left out.');
  }
  if (found.length === 0)
    throw new ExchangeError('The file has no viewpoints.', 'Write it anew with viewpoints for its topics.');
  found.sort((a, b) => a.index - b.index);
  return { views: found.map(({ view }) => view), losses: [...losses] };
}

function unpacked(bytes: Uint8Array): Readonly<Record<string, Uint8Array>> {
  let total = 0;
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(bytes, {
      filter: ({ originalSize }) => {
        total += originalSize;
        if (total > MOST_BYTES)
          throw new ExchangeError('The file is too large when it is unpacked.', 'Split it into several.');
        return true;
      },
    });
  } catch (error) {
    if (error instanceof ExchangeError) throw error;
    throw new ExchangeError(
      'The file is damaged: it isn’t a whole .zip archive.',
      'Write it anew, or copy it once more.',
    );
  }
  if (!files['bcf.version'])
    throw new ExchangeError('The archive isn’t BCF: it has no file bcf.version.', 'Choose a .bcf or .bcfzip file.');
  return files;
}

function xml(files: Readonly<Record<string, Uint8Array>>, name: string): Node {
  const content = strFromU8(files[name]!).replace(/^\uFEFF/, '');
  const refuse = (why: string): never => {
    throw new ExchangeError(`${name} isn’t sound XML: ${why}`, 'Write the file anew.');
  };
  if (/<!DOCTYPE|<!ENTITY/i.test(content)) refuse('it declares entities');
  try {
    SyntaxValidator.validate(content);
  } catch (error) {
    const line = error instanceof Error && 'line' in error ? `line ${String(error.line)}, ` : '';
    refuse(`${line}${error instanceof Error ? error.message : ''}`);
  }
  return parser.parse(content) as Node;
}

/** Version 2 has them beside the topic, version 3 in it. */
const viewpointsOf = (markup: Node, topic: Node): readonly Node[] => {
  const inner = node(topic['Viewpoints']);
  return inner ? nodes(inner['ViewPoint']) : nodes(markup['Viewpoints']);
};

function labelOf(topic: Node): string {
  const own: unknown = topic['Labels'];
  const label = node(own)?.['Label'] ?? own;
  return text(label).slice(0, 120);
}

/** The comments of a viewpoint; those of none go with the first. */
function commentsOf(markup: Node, topic: Node, viewpoint: string, isFirst: boolean) {
  const all = [...nodes(markup['Comment']), ...nodes(node(topic['Comments'])?.['Comment'])];
  return all
    .filter((comment) => {
      const of = text(node(comment['Viewpoint'])?.['@Guid']);
      return of === '' ? isFirst : of === viewpoint;
    })
    .map((comment) => ({
      author: text(comment['Author']).slice(0, 200),
      date: text(comment['Date']),
      text: text(comment['Comment']).slice(0, 4000),
    }))
    .filter(({ date, text: told }) => told !== '' && !Number.isNaN(Date.parse(date)))
    .slice(0, 200);
}

function viewOf(
  info: Node,
  path: string,
  drawing: ExchangedDrawing,
  { mostClips, mostRanges = MOST_RANGES, depth }: BcfLimits,
  losses: Set<string>,
): Omit<ExchangedView, 'name' | 'group'> | null {
  const lengths = lengthsOf(drawing.unit);
  const [orthogonal, perspective] = [node(info['OrthogonalCamera']), node(info['PerspectiveCamera'])];
  const camera = orthogonal ?? perspective;
  if (!camera) {
    losses.add('Viewpoints without a camera are left out.');
    return null;
  }
  const read = <T>(what: string, how: () => T): T => {
    try {
      return how();
    } catch (error) {
      const why = error instanceof Error ? error.message : '';
      throw new ExchangeError(`${path}: ${what} can’t be read, ${why}.`, 'Write the file anew.');
    }
  };
  const framed = read('the camera', () => {
    const aspect = Number(text(camera['AspectRatio']) || 1.5);
    return framedBy(
      {
        eye: placeOf(camera['CameraViewPoint'], lengths),
        direction: vectorOf(camera['CameraDirection']),
        up: vectorOf(camera['CameraUpVector']),
        aspect: aspect > 0 && aspect < 100 ? aspect : 1.5,
        ...(orthogonal
          ? { height: lengths.read(text(camera['ViewToWorldScale'])) }
          : { fovRad: (finite(text(camera['FieldOfView'])) * Math.PI) / 180 }),
      },
      depth,
    );
  });
  const components = node(info['Components']);
  const visibility = node(components?.['Visibility']);
  const exceptions = namesOf(node(visibility?.['Exceptions']));
  const isHiding = text(visibility?.['@DefaultVisibility'] ?? 'true') !== 'false';
  const named = objectsByToolId(exceptions, drawing);
  const selected = objectsByToolId(namesOf(node(components?.['Selection'])), drawing);
  if (named.unknown + selected.unknown > 0) losses.add('Some of its objects aren’t in this drawing.');
  const hidden = isHiding ? named.ranges : allBut(named.ranges, drawing.objects);
  const isTold = hidden.length <= mostRanges;
  if (!isTold) losses.add('Views that hide too many single objects show all of them.');
  const planes = nodes(node(info['ClippingPlanes'])?.['ClippingPlane']).map((plane): ClipPlane =>
    read('a clipping plane', () => ({
      at: placeOf(plane['Location'], lengths),
      normal: unit(vectorOf(plane['Direction'])),
    })),
  );
  const { clips, left } = clipsOfPlanes(planes, mostClips);
  if (left > 0) losses.add(`No more than ${mostClips} clipping planes cut at a time; the others are left out.`);
  if (node(info['Lines'])) losses.add('Lines of viewpoints are left out.');
  if (info['Bitmap'] !== undefined || info['Bitmaps'] !== undefined) losses.add('Bitmaps of viewpoints are left out.');
  return {
    ...framed,
    shows: {
      hiddenLayers: [],
      clips,
      revision: drawing.revision,
      hiddenObjects: isTold ? hidden : '',
      ...(selected.ranges === '' || selected.ranges.length > mostRanges ? {} : { picked: selected.ranges }),
    },
  };
}

/** All objects that aren't in a set. */
function allBut(ranges: string, count: number): string {
  const named = new Set(numbersOfRanges(ranges, count));
  return rangesOf(count, (object) => !named.has(object));
}

const namesOf = (list: Node | undefined): string[][] =>
  nodes(list?.['Component']).map((component) =>
    [text(component['@IfcGuid']), text(component['AuthoringToolId'])].filter((name) => name !== ''),
  );

function finite(told: string): number {
  const value = Number(told);
  if (told === '' || !Number.isFinite(value)) throw new RangeError(`“${told}” is no number`);
  return value;
}

function vectorOf(value: unknown): Vec3 {
  const own = node(value) ?? {};
  return { x: finite(text(own['X'])), y: finite(text(own['Y'])), z: finite(text(own['Z'])) };
}

function placeOf(value: unknown, lengths: Lengths): Vec3 {
  const own = node(value) ?? {};
  return { x: lengths.read(text(own['X'])), y: lengths.read(text(own['Y'])), z: lengths.read(text(own['Z'])) };
}

function unit(v: Vec3): Vec3 {
  const length = Math.hypot(v.x, v.y, v.z);
  if (!(length > 0)) throw new RangeError('it has no direction');
  return { x: v.x / length, y: v.y / length, z: v.z / length };
}
