import 'reflect-metadata/lite';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
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
import { MOST_NAME, MOST_RANGES, OBJECT_SET } from './cards.ts';
import { exportKinds, type ExportKind } from './export.ts';

/** The most sheets of a set, and views of a sheet. */
export const [MOST_SHEETS, MOST_FRAMES] = [500, 20] as const;
/** Scales reach from a million to one to one to a thousand millions. */
export const [LEAST_DENOMINATOR, MOST_DENOMINATOR] = [1e-6, 1e9] as const;

/** What a frame shows of a plan. */
export class FramedViewDto {
  /** What lies in its middle, drawing units. */
  @IsNumber() x!: number;
  @IsNumber() y!: number;
  /** What lies at its top, clockwise from north, radians. */
  @IsNumber() bearingRad!: number;
  /** The N of 1:N, exact on paper. */
  @IsNumber() @Min(LEAST_DENOMINATOR) @Max(MOST_DENOMINATOR) denominator!: number;
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
}

/** A view on a sheet; mm from the paper’s upper left corner. */
export class SheetFrameDto {
  @IsNumber() leftMm!: number;
  @IsNumber() topMm!: number;
  @IsPositive() @Max(MOST_SIDE_MM) widthMm!: number;
  @IsPositive() @Max(MOST_SIDE_MM) heightMm!: number;
  @ValidateNested() @Type(() => FramedViewDto) view!: FramedViewDto;
  @ValidateNested() @Type(() => FrameShowsDto) shows!: FrameShowsDto;
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
}

/** What each sheet of a set says beside its name, number and scale; empty for nothing. */
export class StripFieldsDto {
  @IsString() @MaxLength(MOST_NAME) project!: string;
  @IsString() @MaxLength(MOST_NAME) title!: string;
  @IsString() @MaxLength(MOST_NAME) number!: string;
  @IsString() @MaxLength(MOST_NAME) revision!: string;
  @IsString() @MaxLength(MOST_NAME) author!: string;
  @IsString() @MaxLength(MOST_NAME) date!: string;
}

/** Sheets as they go to paper. */
export class PrintDto {
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
