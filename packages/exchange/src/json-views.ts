import { strFromU8, strToU8 } from 'fflate';
import 'reflect-metadata/lite';
import { drawingUnits, type DrawingUnit } from '@gull-pane/core/drawing/units';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsIn, IsOptional, IsString, Matches, MaxLength, ValidateNested } from 'class-validator';
import { PlainViewDto } from '@gull-pane/protocol/cards';
import { DtoError, readDto } from '@gull-pane/protocol/dto';
import { bytesOfBase64, base64OfBytes } from './base64.ts';
import { ExchangeError, type ExchangedDrawing, type ExchangedView, type ReadViews, type WrittenViews } from './view.ts';

export const VIEWS_FORMAT = 'gull-pane-views';
const VERSION = 1;
const MOST_VIEWS = 10_000;

/** A view in a file of views. */
export class ViewInFileDto extends PlainViewDto {
  /** PNG in base 64. */
  @IsOptional() @IsString() @MaxLength(4_000_000) @Matches(/^[A-Za-z0-9+/]*=*$/) picture?: string;
}

/** A file of views: docs/views.schema.json. */
export class ViewsFileDto {
  @IsIn([VIEWS_FORMAT]) format!: typeof VIEWS_FORMAT;
  @IsIn([VERSION]) version!: typeof VERSION;
  /** The drawing that they are of. */
  @IsString() @MaxLength(200) drawing!: string;
  /** Of all lengths. */
  @IsIn(drawingUnits) unit!: DrawingUnit;
  @IsArray()
  @ArrayMaxSize(MOST_VIEWS)
  @ValidateNested({ each: true })
  @Type(() => ViewInFileDto)
  views!: ViewInFileDto[];
}

/** Everything, to the last digit. */
export function writeJsonViews(views: readonly ExchangedView[], { name, unit }: ExchangedDrawing): WrittenViews {
  const file: ViewsFileDto = {
    format: VIEWS_FORMAT,
    version: VERSION,
    drawing: name,
    unit,
    views: views.map(({ picture, ...view }) => ({
      ...view,
      ...(picture ? { picture: base64OfBytes(picture) } : {}),
    })),
  };
  return { bytes: strToU8(`${JSON.stringify(file, null, 2)}\n`), losses: [] };
}

/** @throws ExchangeError saying what is wrong and where */
export function readJsonViews(bytes: Uint8Array): ReadViews {
  let content: unknown;
  try {
    content = JSON.parse(strFromU8(bytes));
  } catch (error) {
    throw new ExchangeError(
      `The file isn’t whole JSON: ${error instanceof Error ? error.message : ''}`,
      'Write it anew, or copy it once more.',
    );
  }
  try {
    const { views } = readDto(ViewsFileDto, content);
    return {
      views: views.map(({ picture, ...view }) => ({
        ...view,
        ...(picture ? { picture: bytesOfBase64(picture) } : {}),
      })),
      losses: [],
    };
  } catch (error) {
    if (!(error instanceof DtoError)) throw error;
    throw new ExchangeError(`The file has a mistake: ${error.message}`, 'Its schema is docs/views.schema.json.');
  }
}
