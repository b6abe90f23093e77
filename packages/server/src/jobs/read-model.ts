/// <reference path="./draco3dgltf.d.ts" />
import { open, readFile } from 'node:fs/promises';
import type { SolidResult, SolidSink } from '@gull-pane/core/solid/solid-model';
import { MODEL_HEAD_BYTES, modelFormatOf, type ModelFormat } from '@gull-pane/importers/model/model-head';

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
  const bytes = new Uint8Array(await readFile(path));
  const onShare = (share: number): void => onRead(Math.round(share * bytes.length));
  if (format === 'gltf') {
    const { readGltf } = await import('@gull-pane/importers/gltf/read-gltf');
    return readGltf(bytes, sink, { maxObjects, draco: loadDraco, meshopt: loadMeshopt, onShare });
  }
  const { readMesh } = await import('@gull-pane/importers/mesh/read-mesh');
  return readMesh(bytes, format, sink, { maxObjects, onShare });
}

async function loadDraco(): Promise<unknown> {
  const { default: draco } = await import('draco3dgltf');
  return draco.createDecoderModule();
}

async function loadMeshopt(): Promise<unknown> {
  const { MeshoptDecoder } = await import('meshoptimizer');
  await MeshoptDecoder.ready;
  return MeshoptDecoder;
}
