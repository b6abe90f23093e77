import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { FastifyInstance } from 'fastify';
import type { RestoringDto } from '@gull-pane/protocol/backups';
import { finishRestore, prepareRestore, undoRestore } from '../backup/read-backup.ts';
import { notEmbedded } from '../db/postgres.ts';
import { isAllInFolder } from '../config.ts';
import { writeBackup } from '../backup/write-backup.ts';
import { Problem } from '../problem.ts';
import { StartError } from '../start-error.ts';
import type { Services } from './services.ts';

/** Backups of everything while the server runs, and back: it starts anew with what was restored. */
export function backupRoutes(app: FastifyInstance, services: Services): void {
  const { config, db, dump, folder, removed, restart } = services;
  let isRestoring = false;
  const refuseElsewhere = (): void => {
    if (!isAllInFolder(config)) throw new Problem('backup-refused', { detail: notEmbedded().message });
  };

  // its files are compressed already
  app.get('/api/backup', { compress: false }, async (_request, reply) => {
    refuseElsewhere();
    const day = new Date().toISOString().slice(0, 10);
    void reply.type('application/x-tar').header('content-disposition', `attachment; filename="gull-pane-${day}.tar"`);
    return reply.send(await writeBackup({ db, dump, folder, removed }));
  });

  app.post('/api/restore', async (request, reply): Promise<RestoringDto> => {
    refuseElsewhere();
    if (isRestoring) throw new Problem('restore-running');
    if (!request.isMultipart()) throw new Problem('file-missing', { detail: 'The request is not a multipart form.' });
    const file = await request.file({ limits: { fileSize: Infinity } });
    if (!file) throw new Problem('file-missing');
    isRestoring = true;
    const received = join(folder.root, 'restoring.tar');
    try {
      await pipeline(file.file, createWriteStream(received));
      const { writtenAt, drawings } = await prepareRestore(received, folder);
      void reply.status(202);
      reply.raw.once('close', () => restart({ swap: () => finishRestore(folder), undo: () => undoRestore(folder) }));
      return { isRestoring, writtenAt, drawings };
    } catch (error) {
      isRestoring = false;
      throw error instanceof StartError ? new Problem('backup-refused', { detail: error.message }) : error;
    } finally {
      await rm(received, { force: true });
    }
  });
}
