import 'reflect-metadata/lite';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsPositive,
  IsString,
  Matches,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { OBJECT_SET } from './cards.ts';

/** What a drawing is written as. */
export const exportFormats = ['svg', 'geojson', 'glb', '3d-tiles'] as const;
export type ExportFormat = (typeof exportFormats)[number];

/** The part of a drawing that goes out, drawing units. */
export class ExportBoxDto {
  @IsNumber() minX!: number;
  @IsNumber() minY!: number;
  @IsNumber() maxX!: number;
  @IsNumber() maxY!: number;
}

/** What a pane shows of a plan: a frame about a place, twisted. Lengths in drawing units. */
export class ExportFrameDto {
  /** Its middle. */
  @IsNumber() x!: number;
  @IsNumber() y!: number;
  @IsPositive() width!: number;
  @IsPositive() height!: number;
  /** What lies at its top, clockwise from north, radians. */
  @IsNumber() bearingRad!: number;
}

export const exportKinds = ['fills', 'texts', 'lineStyles', 'weights', 'dashes', 'transparency'] as const;
export type ExportKind = (typeof exportKinds)[number];

/** Which part of a drawing goes out; all of it where nothing is told. */
export class ExportPartDto {
  /** Only what lies in it or reaches into it, drawing units; of flat drawings. */
  @IsOptional() @ValidateNested() @Type(() => ExportBoxDto) box?: ExportBoxDto;
  /** Formats that are pictures, too, are cut at it and twisted like it. */
  @IsOptional() @ValidateNested() @Type(() => ExportFrameDto) frame?: ExportFrameDto;
  /** Kinds of content that stay, or go out plain. */
  @IsOptional() @IsArray() @ArrayMaxSize(6) @IsIn(exportKinds, { each: true }) kindsOff?: ExportKind[];
  /** Ids of layers that stay. */
  @IsOptional() @IsArray() @ArrayMaxSize(4096) @IsInt({ each: true }) @Min(0, { each: true }) hiddenLayers?: number[];
  /** Layers of marks that stay, by name. */
  @IsOptional() @IsArray() @ArrayMaxSize(2000) @IsString({ each: true }) hiddenMarkLayers?: string[];
  /** Objects that stay, as ranges: `3-17,20`. */
  @IsOptional() @MaxLength(400_000) @Matches(OBJECT_SET) hiddenObjects?: string;
}
