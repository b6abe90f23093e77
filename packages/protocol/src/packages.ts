import 'reflect-metadata/lite';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsDateString,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  IsUUID,
  Length,
  Matches,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { drawingUnits, type DrawingUnit } from '@gull-pane/core/drawing/units';
import { CameraDto } from './camera.ts';
import { MOST_NAME, OBJECT_SET } from './cards.ts';

export const PACKAGE_FORMAT = 'gull-pane-package';
export const PACKAGE_VERSION = 3;

/** Picked objects under a name. */
export class PickSetDto {
  @IsString() @Length(1, MOST_NAME) name!: string;
  /** As ranges: `3-17,20`. */
  @MaxLength(400_000) @Matches(OBJECT_SET) objects!: string;
}

/** What goes into a package besides what the server has. */
export class WritePackageDto {
  @IsArray() @ArrayMaxSize(1000) @ValidateNested({ each: true }) @Type(() => PickSetDto) pickSets!: PickSetDto[];
}

/** A file in a package, with what proves that it is whole. */
export class PackedFileDto {
  @IsIn(['source', 'cards.json', 'tours.json', 'arrangements.json', 'picked-sets.json', 'marks.json', 'sheets.json'])
  path!: string;
  @IsInt() @Min(0) bytes!: number;
  @Matches(/^[0-9a-f]{64}$/) sha256!: string;
}

/** A drawing in a package. */
export class PackedDrawingDto {
  @IsUUID() id!: string;
  @IsString() @Length(1, 200) name!: string;
  @IsIn(['flat', 'solid']) kind!: 'flat' | 'solid';
  @IsIn(drawingUnits) unit!: DrawingUnit;
  @IsOptional() @ValidateNested() @Type(() => CameraDto) home?: CameraDto;
}

/** `manifest.json` of a package: docs/package.md. */
export class PackageManifestDto {
  @IsIn([PACKAGE_FORMAT]) format!: typeof PACKAGE_FORMAT;
  @IsInt() @Min(1) version!: number;
  @IsDateString() writtenAt!: string;
  @ValidateNested() @Type(() => PackedDrawingDto) drawing!: PackedDrawingDto;
  @IsArray() @ArrayMaxSize(7) @ValidateNested({ each: true }) @Type(() => PackedFileDto) files!: PackedFileDto[];
}

/** How much of each there is. */
export class PackageCountsDto {
  @IsInt() @Min(0) cards!: number;
  @IsInt() @Min(0) tours!: number;
  @IsInt() @Min(0) arrangements!: number;
  @IsInt() @Min(0) pickSets!: number;
}

/** A package that was received and found whole; nothing was taken over yet. */
export class ReceivedPackageDto {
  @IsUUID() id!: string;
  @IsDateString() writtenAt!: string;
  @ValidateNested() @Type(() => PackedDrawingDto) drawing!: PackedDrawingDto;
  @IsInt() @Min(0) sourceBytes!: number;
  @ValidateNested() @Type(() => PackageCountsDto) holds!: PackageCountsDto;
  /** The name that this drawing has here already; absent if it isn't here. */
  @IsOptional() @IsString() nameHere?: string;
  /** Of what it holds, how much is here already. */
  @ValidateNested() @Type(() => PackageCountsDto) known!: PackageCountsDto;
}

export const takings = ['new', 'merge', 'replace'] as const;
export type Taking = (typeof takings)[number];

/** What is to become of a package: a drawing of its own, more for the one that is here, or that one's new content. */
export class TakePackageDto {
  @IsIn(takings) how!: Taking;
}

/** What came of a package that was taken in. */
export class PackageTakenDto {
  @IsUUID() drawingId!: string;
  /** The import of its source; absent where the drawing stays as it is. */
  @IsOptional() @IsUUID() jobId?: string;
  @ValidateNested() @Type(() => PackageCountsDto) added!: PackageCountsDto;
  @IsArray() @ValidateNested({ each: true }) @Type(() => PickSetDto) pickSets!: PickSetDto[];
}
