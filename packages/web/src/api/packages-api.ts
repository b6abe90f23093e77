import { readDto } from '@gull-pane/protocol/dto';
import { PackageTakenDto, ReceivedPackageDto, type Taking } from '@gull-pane/protocol/packages';
import { json, send, sendFile } from './client';

/** Packages that come in; apart, since a drawing's page doesn't need it. */
export const packagesApi = {
  send: async (file: File): Promise<ReceivedPackageDto> =>
    readDto(ReceivedPackageDto, await sendFile('POST', '/api/packages', file)),
  take: async (id: string, how: Taking): Promise<PackageTakenDto> =>
    readDto(PackageTakenDto, await send(`/api/packages/${id}/take`, json('POST', { how }))),
};
