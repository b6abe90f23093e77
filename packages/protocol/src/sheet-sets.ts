import 'reflect-metadata/lite';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsDateString,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsPositive,
  IsString,
  IsUUID,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { LEAST_SIDE_MM, MOST_SIDE_MM } from '@gull-pane/core/sheets/paper';
import { blockKinds, type BlockKind } from '@gull-pane/core/sheets/sheet';
import { solidLooks, type SolidLook } from '@gull-pane/core/solid/solid-looks';
import { CardClipDto, MOST_NAME, MOST_RANGES, OBJECT_SET } from './cards.ts';
import { exportKinds, type ExportKind } from './export.ts';

/** The most sheets of a set, and views of a sheet. */
export const [MOST_SHEETS, MOST_FRAMES] = [500, 20] as const;
/** Scales reach from a million to one to one to a thousand millions. */
export const [LEAST_DENOMINATOR, MOST_DENOMINATOR] = [1e-6, 1e9] as const;

/** The most and the fewest px of an inch of paper, where something goes out as pixels. */
export const [LEAST_DPI, MOST_DPI, USUAL_DPI] = [36, 600, 200] as const;
/** A table of revisions has so many rows at most. */
export const MOST_REVISION_NOTES = 40;

/** A turn as a unit quaternion. */
export class QuaternionDto {
  @IsNumber() @Min(-1.000001) @Max(1.000001) x!: number;
  @IsNumber() @Min(-1.000001) @Max(1.000001) y!: number;
  @IsNumber() @Min(-1.000001) @Max(1.000001) z!: number;
  @IsNumber() @Min(-1.000001) @Max(1.000001) w!: number;
}

/** From where a model is looked at. */
export class SolidSightDto {
  /** Height of what lies in the frame's middle, drawing units. */
  @IsNumber() z!: number;
  /** Turns axes of the view (x right, y up, z towards the viewer) into the world's. */
  @ValidateNested() @Type(() => QuaternionDto) orientation!: QuaternionDto;
  /** From the middle to the eye, drawing units; absent in parallel views. */
  @IsOptional() @IsPositive() eyeDistance?: number;
}

/** What a frame shows. */
export class FramedViewDto {
  /** What lies in its middle, drawing units. */
  @IsNumber() x!: number;
  @IsNumber() y!: number;
  /** Of a plan: what lies at its top, clockwise from north; of a model: how far it is turned anticlockwise; radians. */
  @IsNumber() bearingRad!: number;
  /** The N of 1:N, exact on paper; in perspective in the plane through the middle. */
  @IsNumber() @Min(LEAST_DENOMINATOR) @Max(MOST_DENOMINATOR) denominator!: number;
  /** How a model is looked at; absent for plans. */
  @IsOptional() @ValidateNested() @Type(() => SolidSightDto) solid?: SolidSightDto;
}

/** What doesn't go to paper, or goes plain. */
export class FrameShowsDto {
  @IsArray() @ArrayMaxSize(6) @IsIn(exportKinds, { each: true }) kindsOff!: ExportKind[];
  /** Layers by name. */
  @IsArray() @ArrayMaxSize(4096) @IsString({ each: true }) hiddenLayers!: string[];
  /** Layers of marks by name. */
  @IsArray() @ArrayMaxSize(2000) @IsString({ each: true }) hiddenMarkLayers!: string[];
  /** Objects, as ranges: `3-17,20`. */
  @MaxLength(MOST_RANGES) @Matches(OBJECT_SET) hiddenObjects!: string;
  /** Of a model; hidden line if absent. */
  @IsOptional() @IsIn(solidLooks) look?: SolidLook;
  /** What cuts a model open. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(16)
  @ValidateNested({ each: true })
  @Type(() => CardClipDto)
  clips?: CardClipDto[];
  /** Marks aren't shown. */
  @IsOptional() @IsBoolean() marksOff?: boolean;
  /** Px of an inch where a model goes out as a picture. */
  @IsOptional() @IsInt() @Min(LEAST_DPI) @Max(MOST_DPI) dpi?: number;
  /** Shows what has changed since this revision. */
  @IsOptional() @IsInt() @Min(1) changesSince?: number;
  /** Shades what this person has not seen yet; the name may be empty. */
  @IsOptional() @IsString() @MaxLength(80) unseenBy?: string;
}

/** A view on a sheet; mm from the paper’s upper left corner. */
export class SheetFrameDto {
  @IsNumber() leftMm!: number;
  @IsNumber() topMm!: number;
  @IsPositive() @Max(MOST_SIDE_MM) widthMm!: number;
  @IsPositive() @Max(MOST_SIDE_MM) heightMm!: number;
  @ValidateNested() @Type(() => FramedViewDto) view!: FramedViewDto;
  @ValidateNested() @Type(() => FrameShowsDto) shows!: FrameShowsDto;
  /** What stands below it; nothing if absent or empty. */
  @IsOptional() @IsString() @MaxLength(MOST_NAME) title?: string;
}

/** Something that a sheet shows in a place of its own; mm from the paper’s upper left corner. */
export class SheetBlockDto {
  @IsIn(blockKinds) kind!: BlockKind;
  @IsNumber() leftMm!: number;
  @IsNumber() topMm!: number;
}

/** The line along which a sheet continues on another one; mm from the paper’s upper left corner. */
export class MatchLineDto {
  @IsArray() @ArrayMinSize(2) @ArrayMaxSize(2) @IsNumber({}, { each: true }) from!: [number, number];
  @IsArray() @ArrayMinSize(2) @ArrayMaxSize(2) @IsNumber({}, { each: true }) to!: [number, number];
  /** Index of that sheet in the set. */
  @IsInt() @Min(0) @Max(MOST_SHEETS - 1) sheet!: number;
}

/** Sides of a sheet. */
export class PaperDto {
  @IsNumber() @Min(LEAST_SIDE_MM) @Max(MOST_SIDE_MM) widthMm!: number;
  @IsNumber() @Min(LEAST_SIDE_MM) @Max(MOST_SIDE_MM) heightMm!: number;
}

/** A page laid out for paper. */
export class PaperSheetDto {
  @IsString() @Length(1, MOST_NAME) @Matches(/\S/, { message: 'name must not be blank' }) name!: string;
  @ValidateNested() @Type(() => PaperDto) paper!: PaperDto;
  @IsArray()
  @ArrayMaxSize(MOST_FRAMES)
  @ValidateNested({ each: true })
  @Type(() => SheetFrameDto)
  frames!: SheetFrameDto[];
  @IsArray() @ArrayMaxSize(8) @ValidateNested({ each: true }) @Type(() => MatchLineDto) matchLines!: MatchLineDto[];
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(8)
  @ValidateNested({ each: true })
  @Type(() => SheetBlockDto)
  blocks?: readonly SheetBlockDto[];
}

/** A row of the table of revisions. */
export class RevisionNoteDto {
  @IsString() @MaxLength(MOST_NAME) revision!: string;
  @IsString() @MaxLength(MOST_NAME) date!: string;
  @IsString() @MaxLength(MOST_NAME) what!: string;
  @IsString() @MaxLength(MOST_NAME) author!: string;
}

/** What each sheet of a set says beside its name, number and scale; empty for nothing. */
export class StripFieldsDto {
  @IsString() @MaxLength(MOST_NAME) project!: string;
  @IsString() @MaxLength(MOST_NAME) title!: string;
  @IsString() @MaxLength(MOST_NAME) number!: string;
  @IsString() @MaxLength(MOST_NAME) revision!: string;
  @IsString() @MaxLength(MOST_NAME) author!: string;
  @IsString() @MaxLength(MOST_NAME) date!: string;
  /** What was changed with each revision, the oldest first. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(MOST_REVISION_NOTES)
  @ValidateNested({ each: true })
  @Type(() => RevisionNoteDto)
  revisions?: RevisionNoteDto[];
}

/** Formats that sheets go out in. */
export const sheetFormats = ['pdf', 'svg', 'png', 'tiff'] as const;
export type SheetFormat = (typeof sheetFormats)[number];

/** How far the writing of sheets has come. */
export class PrintProgressDto {
  /** Place of the sheet that is being written, from 1. */
  @IsInt() @Min(1) sheet!: number;
  @IsInt() @Min(1) sheets!: number;
  /** Objects of it that are drawn. */
  @IsInt() @Min(0) objects!: number;
}

/** Sheets as they go to paper. */
export class PrintDto {
  /** PDF if absent. SVG and PNG of several sheets come as a ZIP file; TIFF and PDF hold them all. */
  @IsOptional() @IsIn(sheetFormats) format?: SheetFormat;
  /** Px of an inch of PNG and TIFF. */
  @IsOptional() @IsInt() @Min(LEAST_DPI) @Max(MOST_DPI) dpi?: number;
  /** Made by the client: its progress is found under this name. */
  @IsOptional() @IsUUID() run?: string;
  @ValidateNested() @Type(() => StripFieldsDto) fields!: StripFieldsDto;
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_SHEETS)
  @ValidateNested({ each: true })
  @Type(() => PaperSheetDto)
  sheets!: PaperSheetDto[];
}

class SheetSetContentDto {
  @IsString() @Length(1, MOST_NAME) @Matches(/\S/, { message: 'name must not be blank' }) name!: string;
  /** Sets stand in the order of these numbers. */
  @IsNumber() position!: number;
  @ValidateNested() @Type(() => StripFieldsDto) fields!: StripFieldsDto;
  @IsArray()
  @ArrayMaxSize(MOST_SHEETS)
  @ValidateNested({ each: true })
  @Type(() => PaperSheetDto)
  sheets!: PaperSheetDto[];
}

/** A set of sheets that is to be kept. */
export class KeepSheetSetDto extends SheetSetContentDto {
  /** Made by the client, so that sending it twice saves it once. */
  @IsOptional() @IsUUID() id?: string;
}

/** A kept set of sheets. */
export class SheetSetDto extends SheetSetContentDto {
  @IsUUID() id!: string;
  @IsUUID() drawingId!: string;
  /** Rises with each change. */
  @IsInt() @Min(1) version!: number;
  @IsDateString() updatedAt!: string;
}

/** What is to become of a set; what is absent stays. */
export class ChangeSheetSetDto {
  /** The one that the change was made of: another one in the meantime is a conflict. */
  @IsInt() @Min(1) version!: number;
  @IsOptional() @IsString() @Length(1, MOST_NAME) @Matches(/\S/, { message: 'name must not be blank' }) name?: string;
  @IsOptional() @IsNumber() position?: number;
  @IsOptional() @ValidateNested() @Type(() => StripFieldsDto) fields?: StripFieldsDto;
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(MOST_SHEETS)
  @ValidateNested({ each: true })
  @Type(() => PaperSheetDto)
  sheets?: PaperSheetDto[];
}
