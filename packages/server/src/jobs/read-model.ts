/// <reference path="./untyped-readers.d.ts" />
import { createReadStream } from 'node:fs';
import { open, readFile, stat } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, sep } from 'node:path';
import type { SolidResult, SolidSink } from '@gull-pane/core/solid/solid-model';
import type { DecodePicture } from '@gull-pane/importers/gltf/surface-pictures';
import type { IfcOptions } from '@gull-pane/importers/ifc/read-ifc';
import type { StepContent } from '@gull-pane/importers/step/read-step';
import {
  MODEL_HEAD_BYTES,
  modelFormatOf,
  type ExactFormat,
  type ModelFormat,
} from '@gull-pane/importers/model/model-head';

const require = createRequire(import.meta.url);

/** @returns null if the file is no model; its name doesn't matter */
export async function modelFormatOfFile(path: string): Promise<ModelFormat | null> {
  const file = await open(path);
  try {
    const { size } = await file.stat();
    const { buffer, bytesRead } = await file.read(Buffer.alloc(MODEL_HEAD_BYTES), 0, MODEL_HEAD_BYTES, 0);
    return modelFormatOf(buffer.subarray(0, bytesRead), size);
  } finally {
    await file.close();
  }
}

/**
 * Reads a model; the packages that do are large and loaded only for files that need them.
 * @param onRead told how many bytes are as good as read
 * @throws ReadError with what is wrong and where
 */
export async function readModel(
  path: string,
  format: ModelFormat,
  maxObjects: number,
  sink: SolidSink,
  onRead: (bytes: number) => void,
): Promise<SolidResult> {
  if (format === 'points') {
    const { readPoints } = await import('@gull-pane/importers/points/read-points');
    const { size } = await stat(path);
    return readPoints(createReadStream(path, { highWaterMark: CHUNK_BYTES }), sink, {
      maxObjects,
      size,
      onShare: (share) => onRead(Math.round(share * size)),
    });
  }
  const bytes = new Uint8Array(await readFile(path));
  const onShare = (share: number): void => onRead(Math.round(share * bytes.length));
  if (format === 'gltf') {
    const { readGltf } = await import('@gull-pane/importers/gltf/read-gltf');
    return readGltf(bytes, sink, {
      maxObjects,
      draco: loadDraco,
      meshopt: loadMeshopt,
      picture: smallPicture,
      onShare,
    });
  }
  if (format === 'ifc') {
    const { readIfc } = await import('@gull-pane/importers/ifc/read-ifc');
    return readIfc(bytes, sink, { maxObjects, ...(await loadIfc()), onShare });
  }
  if (format === 'step' || format === 'iges' || format === 'brep') {
    const { readStep } = await import('@gull-pane/importers/step/read-step');
    const parse = await loadExact(format);
    return readStep(bytes, sink, { format, maxObjects, parse, onShare });
  }
  const { readMesh } = await import('@gull-pane/importers/mesh/read-mesh');
  return readMesh(bytes, format, sink, { maxObjects, onShare });
}

/** What is read at a time of a file that is never held whole. */
const CHUNK_BYTES = 1 << 20;

async function loadDraco(): Promise<unknown> {
  const { default: draco } = await import('draco3dgltf');
  return draco.createDecoderModule();
}

async function loadMeshopt(): Promise<unknown> {
  const { MeshoptDecoder } = await import('meshoptimizer');
  await MeshoptDecoder.ready;
  return MeshoptDecoder;
}

/** The longest side of a picture that colours are taken from, px. */
const PICTURE_PX = 512;
/** Pictures of more px aren't unpacked. */
const MOST_PICTURE_PX = 1 << 27;

const smallPicture: DecodePicture = async (bytes) => {
  const { default: sharp } = await import('sharp');
  const { data, info } = await sharp(bytes, { limitInputPixels: MOST_PICTURE_PX })
    .resize({ width: PICTURE_PX, height: PICTURE_PX, fit: 'inside', withoutEnlargement: true })
    .flatten({ background: '#ffffff' })
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { widthPx: info.width, heightPx: info.height, rgb: new Uint8Array(data) };
};

async function loadIfc(): Promise<Pick<IfcOptions, 'api' | 'types'>> {
  const ifc = await import('web-ifc');
  const api = new ifc.IfcAPI();
  api.SetWasmPath(dirname(require.resolve('web-ifc')) + sep, true);
  await api.Init(undefined, true);
  api.SetLogLevel(ifc.LogLevel.LOG_LEVEL_OFF);
  const { ifcTypesOf } = await import('@gull-pane/importers/ifc/ifc-types');
  return { api, types: ifcTypesOf({ ...ifc }) };
}

/** How far the directions of neighbouring triangles of a curved face may differ: 31 sides a circle, however large. */
const TURN_RAD = 0.2;

async function loadExact(format: ExactFormat): Promise<(bytes: Uint8Array) => StepContent> {
  const { default: start } = await import('occt-import-js');
  const { ReadStepFile, ReadIgesFile, ReadBrepFile } = await start();
  const read = { step: ReadStepFile, iges: ReadIgesFile, brep: ReadBrepFile }[format];
  return (bytes) => read(bytes, { linearUnit: 'millimeter', angularDeflection: TURN_RAD });
}
