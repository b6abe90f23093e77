import 'reflect-metadata/lite';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsInt,
  IsNumber,
  IsOptional,
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

export class ExportBoxDto {
  @IsNumber() minX!: number;
  @IsNumber() minY!: number;
  @IsNumber() maxX!: number;
  @IsNumber() maxY!: number;
}

/** Which part of a drawing goes out; all of it where nothing is told. */
export class ExportPartDto {
  /** Only what lies in it or reaches into it, drawing units; of flat drawings. */
  @IsOptional() @ValidateNested() @Type(() => ExportBoxDto) box?: ExportBoxDto;
  /** Ids of layers that stay. */
  @IsOptional() @IsArray() @ArrayMaxSize(4096) @IsInt({ each: true }) @Min(0, { each: true }) hiddenLayers?: number[];
  /** Layers of marks that stay, by name. */
  @IsOptional() @IsArray() @ArrayMaxSize(2000) @IsString({ each: true }) hiddenMarkLayers?: string[];
  /** Objects that stay, as ranges: `3-17,20`. */
  @IsOptional() @MaxLength(400_000) @Matches(OBJECT_SET) hiddenObjects?: string;
}
