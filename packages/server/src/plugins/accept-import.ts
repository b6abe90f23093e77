import type { ImportAcceptedDto } from '@gull-pane/protocol/drawings';
import type { Transaction } from '../db/database.ts';
import { Problem } from '../problem.ts';
import type { ReceivedFile } from './receive-file.ts';
import { DrawingsRepository } from './drawings-repository.ts';
import type { Services } from './services.ts';

/**
 * Queues the import of a file that was received: as a new drawing, or as another one's next content.
 * @param former the drawing whose content it becomes; null for a new one
 * @throws Problem import-running, drawing-not-found
 */
export async function acceptImport(
  { imports, contents }: Pick<Services, 'imports' | 'contents'>,
  repository: DrawingsRepository,
  jobId: string,
  { path, name, bytes }: ReceivedFile,
  former: string | null,
): Promise<ImportAcceptedDto> {
  const drawingId = former ?? imports.newId();
  await contents.keepSource(jobId, path);
  if (former !== null && (await repository.find(former)).jobId !== null) throw new Problem('import-running');
  const add = async (tx: Transaction): Promise<void> => {
    if (former === null) await new DrawingsRepository(tx).add(drawingId, name, bytes);
  };
  await imports.queue(drawingId, jobId, bytes, name, add).catch(async (error: unknown) => {
    // sent twice under one key: the file is that of the job that is there
    const isKnown = await imports.find(jobId).then(
      () => true,
      () => false,
    );
    if (!isKnown) await contents.removeSource(jobId);
    throw error;
  });
  return { drawingId, jobId };
}
