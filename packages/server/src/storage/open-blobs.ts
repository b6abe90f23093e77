import { StartError } from '../start-error.ts';
import type { BlobStore } from './blob-store.ts';
import { FolderBlobs } from './folder-blobs.ts';
import { makeFolder } from './data-folder.ts';
import type { S3Place } from './s3-blobs.ts';

/** Where `GULL_PANE_BLOBS` says that blobs are: a folder, or a place in an object store. */
export type BlobPlace = { readonly folder: string } | S3Place;

/**
 * Opens the place where files are kept that all servers share.
 * @throws StartError if it can't be reached or written
 */
export async function openBlobs(place: BlobPlace): Promise<BlobStore> {
  if ('folder' in place) {
    const blobs = new FolderBlobs(place.folder);
    await makeFolder(place.folder)
      .then(() => blobs.check())
      .catch((error: unknown) => {
        throw new StartError(
          `The folder ${place.folder} can’t be written (${reasonOf(error)}). Name another one in GULL_PANE_BLOBS.`,
        );
      });
    return blobs;
  }
  // its package is large, and most servers keep files in a folder
  const { S3Blobs } = await import('./s3-blobs.ts');
  const blobs = new S3Blobs(place);
  await blobs.check().catch((error: unknown) => {
    throw new StartError(
      `The bucket ${place.bucket} can’t be used (${reasonOf(error)}). Check GULL_PANE_BLOBS, GULL_PANE_S3_ENDPOINT and the keys of access.`,
    );
  });
  return blobs;
}

function reasonOf(error: unknown): string {
  const { code, name, message } = error as NodeJS.ErrnoException;
  return [code ?? name, message].filter(Boolean).join(': ');
}
