import XMLBuilder from 'fast-xml-builder';
import { strToU8, zipSync, type Zippable } from 'fflate';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import { planesOf } from '../clip-planes.ts';
import { lengthsOf, type Lengths } from '../decimal.ts';
import { hiddenObjectsOf, toolIdOf } from '../object-names.ts';
import { sightOf } from '../sight.ts';
import { numbersOfRanges } from '@gull-pane/core/drawing/ranges';
import type { Circumstances, ExchangedDrawing, ExchangedView, WrittenViews } from '../view.ts';
import type { BcfVersion } from './bcf-version.ts';

type Xml = { readonly [name: string]: string | number | boolean | undefined | Xml | readonly (Xml | string)[] };

const DEGREES = 180 / Math.PI;
/** What version 2.1 allows as a field of view, degrees. */
const FIELD_OF_2_1 = { least: 45, most: 60 } as const;
const TOPIC_TYPE = 'View';
const TOPIC_STATUS = 'Open';

const builder = new XMLBuilder({
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  format: true,
  suppressEmptyNode: true,
  suppressBooleanAttributes: false,
  processEntities: true,
});
const file = (content: Xml): Uint8Array =>
  strToU8(`<?xml version="1.0" encoding="UTF-8"?>\n${builder.build(content).trim()}\n`);

/**
 * Views as topics of BCF, each with its viewpoint and its picture. Elements stand in the order of the standard's schemas:
 * the order of the properties here.
 */
export function writeBcf(
  views: readonly ExchangedView[],
  drawing: ExchangedDrawing,
  version: BcfVersion,
  circumstances: Circumstances,
): WrittenViews {
  const losses = new Set<string>();
  const zip: Zippable = { 'bcf.version': versionFile(version) };
  if (version === '3.0') zip['extensions.xml'] = extensionsFile(views, circumstances);
  for (const [k, view] of views.entries()) {
    const topic = circumstances.newId();
    const viewpoint = circumstances.newId();
    zip[`${topic}/markup.bcf`] = file(markup(view, k, { topic, viewpoint, version, circumstances }));
    zip[`${topic}/viewpoint.bcfv`] = file(visualization(view, drawing, viewpoint, version, losses));
    if (view.picture) zip[`${topic}/snapshot.png`] = [view.picture, { level: 0 }];
    tellLosses(view, losses);
  }
  return { bytes: zipSync(zip), losses: [...losses] };
}

const versionFile = (version: BcfVersion): Uint8Array =>
  file({
    Version: {
      '@VersionId': version,
      ...(version === '2.1' ? { DetailedVersion: '2.1' } : {}),
    },
  });

/** Version 3.0 wants every word that topics use to be told. */
function extensionsFile(views: readonly ExchangedView[], { author }: Circumstances): Uint8Array {
  const groups = [...new Set(views.map(({ group }) => group).filter((group) => group !== ''))];
  const users = [
    ...new Set([author, ...views.flatMap(({ comments }) => (comments ?? []).map((comment) => comment.author))]),
  ];
  return file({
    Extensions: {
      TopicTypes: { TopicType: TOPIC_TYPE },
      TopicStatuses: { TopicStatus: TOPIC_STATUS },
      ...(groups.length > 0 ? { TopicLabels: { TopicLabel: groups } } : {}),
      Users: { User: users },
    },
  });
}

interface MarkupFrame {
  readonly topic: string;
  readonly viewpoint: string;
  readonly version: BcfVersion;
  readonly circumstances: Circumstances;
}

function markup({ name, group, comments = [], picture }: ExchangedView, index: number, frame: MarkupFrame): Xml {
  const { topic, viewpoint, version, circumstances } = frame;
  const { author, date, newId } = circumstances;
  const remarks = comments.map((comment) => ({
    '@Guid': newId(),
    Date: comment.date,
    Author: comment.author,
    Comment: comment.text,
    Viewpoint: { '@Guid': viewpoint },
  }));
  const point = {
    '@Guid': viewpoint,
    Viewpoint: 'viewpoint.bcfv',
    ...(picture ? { Snapshot: 'snapshot.png' } : {}),
    Index: 0,
  };
  const head = { '@Guid': topic, '@TopicType': TOPIC_TYPE, '@TopicStatus': TOPIC_STATUS };
  const dates = { CreationDate: date, CreationAuthor: author };
  return version === '2.1'
    ? {
        Markup: {
          Topic: { ...head, Title: name, Index: index, ...(group === '' ? {} : { Labels: group }), ...dates },
          ...(remarks.length > 0 ? { Comment: remarks } : {}),
          Viewpoints: point,
        },
      }
    : {
        Markup: {
          Topic: {
            ...head,
            Title: name,
            Index: index,
            ...(group === '' ? {} : { Labels: { Label: group } }),
            ...dates,
            ...(remarks.length > 0 ? { Comments: { Comment: remarks } } : {}),
            Viewpoints: { ViewPoint: point },
          },
        },
      };
}

/** A GlobalId of IFC (ISO 16739): 128 bits as 22 letters. */
const IFC_GUID = /^[0-3][0-9A-Za-z_$]{21}$/;

function visualization(
  view: ExchangedView,
  drawing: ExchangedDrawing,
  guid: string,
  version: BcfVersion,
  losses: Set<string>,
): Xml {
  const lengths = lengthsOf(drawing.unit);
  const component = (object: number): Xml => ({
    // as BCF 2.1 and 3.0 have it: 22 characters, those of IFC
    ...(IFC_GUID.test(drawing.objectIds?.[object] ?? '') ? { '@IfcGuid': drawing.objectIds![object]! } : {}),
    OriginatingSystem: drawing.name,
    AuthoringToolId: toolIdOf(object, drawing),
  });
  const hidden = hiddenObjectsOf(view, drawing).map(component);
  const { picked = '', revision } = view.shows;
  const selected = (revision === drawing.revision ? numbersOfRanges(picked, drawing.objects) : []).map(component);
  const { planes, isPart } = planesOf(view.shows.clips);
  if (isPart) losses.add('Boxes that keep their outside can’t be told.');
  const place = (v: Vec3): Xml => ({ X: lengths.write(v.x), Y: lengths.write(v.y), Z: lengths.write(v.z) });
  return {
    VisualizationInfo: {
      '@Guid': guid,
      Components: {
        ...(selected.length > 0 ? { Selection: { Component: selected } } : {}),
        Visibility: {
          '@DefaultVisibility': 'true',
          ...(hidden.length > 0 ? { Exceptions: { Component: hidden } } : {}),
        },
      },
      ...cameraXml(view, version, lengths, losses),
      ...(planes.length > 0
        ? {
            ClippingPlanes: {
              ClippingPlane: planes.map(({ at, normal }) => ({ Location: place(at), Direction: direction(normal) })),
            },
          }
        : {}),
    },
  };
}

const direction = (v: Vec3): Xml => ({ X: String(v.x), Y: String(v.y), Z: String(v.z) });

function cameraXml(view: ExchangedView, version: BcfVersion, lengths: Lengths, losses: Set<string>): Xml {
  const { eye, direction: looks, up, fovRad, height, aspect } = sightOf(view.camera, view);
  const place = {
    CameraViewPoint: { X: lengths.write(eye.x), Y: lengths.write(eye.y), Z: lengths.write(eye.z) },
    CameraDirection: direction(looks),
    CameraUpVector: direction(up),
  };
  const shape = version === '3.0' ? { AspectRatio: String(aspect) } : {};
  if (fovRad === undefined)
    return { OrthogonalCamera: { ...place, ViewToWorldScale: lengths.write(height!), ...shape } };
  const degrees = fovRad * DEGREES;
  const { least, most } = FIELD_OF_2_1;
  const allowed = version === '2.1' ? Math.min(Math.max(degrees, least), most) : degrees;
  if (allowed !== degrees)
    losses.add(
      `Fields of view outside ${least}° to ${most}° aren’t allowed in version 2.1: they were set to the nearest that is.`,
    );
  return { PerspectiveCamera: { ...place, FieldOfView: String(allowed), ...shape } };
}

function tellLosses({ shows, camera }: ExchangedView, losses: Set<string>): void {
  if (shows.hiddenLayers.length > 0)
    losses.add('Layers aren’t told: the objects of hidden ones are told as hidden objects.');
  if ((shows.kindsOff ?? []).length > 0) losses.add('Kinds of things that don’t show can’t be told.');
  if (shows.look !== undefined) losses.add('The look of solids can’t be told.');
  if (shows.clips.some(({ isOn }) => !isOn)) losses.add('Clips that are off aren’t told.');
  if (camera.fovRad !== undefined)
    losses.add('How far off a perspective view looks can’t be told; the picture is the same.');
  losses.add('Directions are told as vectors: they come back to the last digit or two.');
}
