import { readDto, readDtoList } from '@gull-pane/protocol/dto';
import {
  SheetSetDto,
  type ChangeSheetSetDto,
  type KeepSheetSetDto,
  type PrintDto,
} from '@gull-pane/protocol/sheet-sets';
import { json, send, sendForFile } from './client';

/** What the server does with sheets; apart, since no other page needs it. */
export const sheetSetsApi = {
  list: async (drawingId: string): Promise<SheetSetDto[]> =>
    readDtoList(SheetSetDto, await send(`/api/drawings/${drawingId}/sheet-sets`)),
  keep: async (drawingId: string, set: KeepSheetSetDto): Promise<SheetSetDto> =>
    readDto(SheetSetDto, await send(`/api/drawings/${drawingId}/sheet-sets`, json('POST', set))),
  change: async (id: string, change: ChangeSheetSetDto): Promise<SheetSetDto> =>
    readDto(SheetSetDto, await send(`/api/sheet-sets/${id}`, json('PATCH', change))),
  remove: async (id: string): Promise<void> => {
    await send(`/api/sheet-sets/${id}`, { method: 'DELETE' });
  },
  print: (drawingId: string, set: PrintDto, signal: AbortSignal): Promise<Blob> =>
    sendForFile(`/api/drawings/${drawingId}/print`, { ...json('POST', set), signal }),
};
