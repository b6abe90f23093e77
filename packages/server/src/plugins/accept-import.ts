import type { ImportAcceptedDto } from '@gull-pane/protocol/drawings';
import { Problem } from '../problem.ts';
import type { ReceivedFile } from './receive-file.ts';
import type { DrawingsRepository } from './drawings-repository.ts';
import type { Services } from './services.ts';

/**
 * Queues the import of a file that lies where its job's source comes in: as a new drawing, or as another one's next content.
 * @param former the drawing whose content it becomes; null for a new one
 * @throws Problem import-running, drawing-not-found
 */
export async function acceptImport(
  { imports, contents }: Pick<Services, 'imports' | 'contents'>,
  repository: DrawingsRepository,
  jobId: string,
  { name, bytes }: ReceivedFile,
  former: string | null,
): Promise<ImportAcceptedDto> {
  const drawingId = former ?? imports.newId();
  await contents.keepSource(jobId);
  if (former === null) await repository.add(drawingId, name, bytes);
  else if ((await repository.find(former)).jobId !== null) throw new Problem('import-running');
  await imports.queue(drawingId, jobId, bytes, name);
  return { drawingId, jobId };
}
