import { readDto, readDtoList } from '@gull-pane/protocol/dto';
import type { SheetPart } from '@gull-pane/core/sheets/sheet-part';
import {
  PrintProgressDto,
  SheetSetDto,
  type ChangeSheetSetDto,
  type KeepSheetSetDto,
  type PrintDto,
  type SheetFrameDto,
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
  /** What lies on top of a frame. */
  overlay: async (drawingId: string, frame: SheetFrameDto, signal: AbortSignal): Promise<readonly SheetPart[]> =>
    (await send(`/api/drawings/${drawingId}/frame-overlay`, {
      ...json('POST', frame),
      signal,
    })) as readonly SheetPart[],
  /** How far a writing has come; null if it isn't running. */
  progress: async (run: string): Promise<PrintProgressDto | null> => {
    try {
      return readDto(PrintProgressDto, await send(`/api/prints/${run}`));
    } catch {
      return null; // it has just ended, or hasn't begun yet
    }
  },
  print: (drawingId: string, set: PrintDto, signal: AbortSignal): Promise<Blob> =>
    sendForFile(`/api/drawings/${drawingId}/print`, { ...json('POST', set), signal }),
};
