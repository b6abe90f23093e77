import 'reflect-metadata/lite';
import { Type } from 'class-transformer';
import {
  IsArray,
  IsBoolean,
  IsDateString,
  IsIn,
  IsInt,
  IsNumber,
  IsOptional,
  IsString,
  IsUUID,
  Length,
  Matches,
  Min,
  ValidateNested,
} from 'class-validator';
import { drawingUnits, lengthUnits, type DrawingUnit, type LengthUnit } from '@gull-pane/core/drawing/units';
import { CameraDto } from './camera.ts';
import type { ProblemDetails } from './problems.ts';

/** A place in drawing units: X east, Y north, Z up. */
export class PointDto {
  @IsNumber() x!: number;
  @IsNumber() y!: number;
  @IsNumber() z!: number;
}

/** The smallest box around a drawing, drawing units. */
export class ExtentsDto {
  @ValidateNested() @Type(() => PointDto) min!: PointDto;
  @ValidateNested() @Type(() => PointDto) max!: PointDto;
}

/** How much a drawing holds. */
export class CountsDto {
  /** Drawn elements, texts included. */
  @IsInt() @Min(0) objects!: number;
  /** Lines and curves of the definitions: a rectangle has 4, a circle 1. */
  @IsInt() @Min(0) segments!: number;
  @IsInt() @Min(0) triangles!: number;
  /** Points of models that hold some. */
  @IsOptional() @IsInt() @Min(0) points?: number;
  @IsInt() @Min(0) texts!: number;
  @IsInt() @Min(0) layers!: number;
}

/** What an import left out or drew otherwise. */
export class WarningDto {
  @IsString() code!: string;
  @IsString() message!: string;
  @IsInt() @Min(1) count!: number;
  /** Line of the first occurrence in the source. */
  @IsOptional() @IsInt() line?: number;
  /** Its page, where the source has pages. */
  @IsOptional() @IsInt() page?: number;
}

/** A sheet of a set: its part of the drawing, drawing units. */
export class SheetDto {
  @IsString() name!: string;
  @IsNumber() minX!: number;
  @IsNumber() minY!: number;
  @IsNumber() maxX!: number;
  @IsNumber() maxY!: number;
}

export const drawingStatuses = ['importing', 'ready', 'failed'] as const;
export type DrawingStatus = (typeof drawingStatuses)[number];

/** A plan, or a model in space. */
export const drawingKinds = ['flat', 'solid'] as const;
export type DrawingKind = (typeof drawingKinds)[number];

/** How a drawing was begun here. */
export class BegunDto {
  /** What lies so near to each other is one, drawing units. */
  @IsNumber() @Min(0) tolerance!: number;
  /** Between the lines of the grid that points snap to, drawing units; 0 for none. */
  @IsNumber() @Min(0) gridStep!: number;
}

/** A drawing that is to be begun. */
export class BeginDrawingDto extends BegunDto {
  @IsString() @Length(1, 200) @Matches(/\S/, { message: 'name must not be blank' }) name!: string;
  @IsIn(drawingKinds) kind!: DrawingKind;
  @IsIn(lengthUnits) unit!: LengthUnit;
}

/** A drawing's id, and behind a tilde the revision that is meant; the present one if there is none. */
export const DRAWING_ADDRESS = /^([0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12})(?:~([1-9]\d{0,8}))?$/i;

/** The id of a drawing, whichever revision of it is meant. */
export const idOfAddress = (address: string): string => DRAWING_ADDRESS.exec(address)?.[1] ?? address;

/** The address of a former revision of a drawing. */
export const addressOfRevision = (address: string, revision: number): string => `${idOfAddress(address)}~${revision}`;

/** Whether a former revision is meant, which nobody changes any more. */
export const isFormer = (address: string): boolean => address.includes('~');

/** A drawing without its content. */
export class DrawingDto {
  @Matches(DRAWING_ADDRESS) id!: string;
  @IsString() name!: string;
  @IsIn(drawingKinds) kind!: DrawingKind;
  @IsIn(drawingUnits) unit!: DrawingUnit;
  @IsIn(drawingStatuses) status!: DrawingStatus;
  @ValidateNested() @Type(() => CountsDto) counts!: CountsDto;
  /** Tight over the geometry; absent while there is none. */
  @IsOptional() @ValidateNested() @Type(() => ExtentsDto) extents!: ExtentsDto | null;
  @IsArray() @ValidateNested({ each: true }) @Type(() => WarningDto) warnings!: WarningDto[];
  /** In order; none where the source has no pages. */
  @IsArray() @ValidateNested({ each: true }) @Type(() => SheetDto) sheets!: SheetDto[];
  /** Rises with each import of content; part of the tiles' addresses. */
  @IsInt() @Min(0) revision!: number;
  @IsInt() @Min(0) sourceBytes!: number;
  /** Absent for what was imported. */
  @IsOptional() @ValidateNested() @Type(() => BegunDto) begun!: BegunDto | null;
  /** The view that Home goes to; absent while none has been set. */
  @IsOptional() @ValidateNested() @Type(() => CameraDto) home!: CameraDto | null;
  @IsDateString() createdAt!: string;
  @IsDateString() updatedAt!: string;
  /** The latest import while it hasn't ended, else absent. */
  @IsOptional() @IsUUID() jobId!: string | null;
  /** Whether the latest import was cancelled. */
  @IsBoolean() isCancelled!: boolean;
  /** Why the latest import failed, if it did. */
  @IsOptional() error!: ProblemDetails | null;
}

/** What a drawing is to be called. */
export class RenameDrawingDto {
  @IsString() @Length(1, 200) @Matches(/\S/, { message: 'name must not be blank' }) name!: string;
}

/** An import that has been queued. */
export class ImportAcceptedDto {
  @IsUUID() drawingId!: string;
  @IsUUID() jobId!: string;
}

/** A layer of a drawing. */
export class LayerDto {
  /** Index of the layer in its drawing. */
  @IsInt() @Min(0) id!: number;
  @IsString() name!: string;
  /** Colour of most of its lines, #rrggbb. */
  @Matches(/^#[0-9a-f]{6}$/) colour!: string;
  /** Whether the source has it switched off: it is hidden when the drawing is opened. */
  @IsBoolean() isOff!: boolean;
  @IsInt() @Min(0) objects!: number;
  @IsInt() @Min(0) segments!: number;
  /** x, y, z triples of the layer's convex hull, for fits in any direction. */
  @IsArray() @IsNumber({}, { each: true }) support!: number[];
}
