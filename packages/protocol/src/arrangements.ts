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
  MaxLength,
  Min,
  ValidateBy,
  ValidateNested,
} from 'class-validator';
import { orbitModes, type OrbitMode } from '@gull-pane/core/camera/orbit-drag';
import { MOST_PANES, isTiling, type Tiling } from '@gull-pane/core/panes/tiling';
import { CameraDto } from './camera.ts';
import { DRAWING_ADDRESS } from './drawings.ts';
import { CardShowsDto, DATA_PICTURE, MOST_NAME } from './cards.ts';
import { TrailDto } from './trail.ts';

/** Of each pane's trail so many views are kept with an arrangement. */
export const MOST_VIEWS_OF_A_PANE = 30;
/** The largest arrangement, JSON in bytes. */
export const MOST_ARRANGEMENT_BYTES = 1024 * 1024;
const MOST_PICTURE = 60_000;

/** What one pane of an arrangement shows, and how. */
export class ArrangedPaneDto {
  /** Its name in the tiling. */
  @IsString() @Length(1, 40) pane!: string;
  @Matches(DRAWING_ADDRESS) drawingId!: string;
  @ValidateNested() @Type(() => CameraDto) camera!: CameraDto;
  /** Its size when the arrangement was kept, CSS px. */
  @IsPositive() widthPx!: number;
  @IsPositive() heightPx!: number;
  @ValidateNested() @Type(() => CardShowsDto) shows!: CardShowsDto;
  @IsBoolean() isLocked!: boolean;
  @IsBoolean() drifts!: boolean;
  @IsBoolean() turnsAlone!: boolean;
  @IsIn(orbitModes) orbitMode!: OrbitMode;
  /** Whether its chart of directions is open; absent for as it usually is. */
  @IsOptional() @IsIn(['open', 'folded']) dial?: 'open' | 'folded';
  @ValidateNested() @Type(() => TrailDto) trail!: TrailDto;
}

/** What two panes have in common. */
export class TieDto {
  @IsString() @Length(1, 40) one!: string;
  @IsString() @Length(1, 40) other!: string;
  @IsBoolean() place!: boolean;
  @IsBoolean() scale!: boolean;
  @IsIn(['free', 'same', 'opposite']) direction!: 'free' | 'same' | 'opposite';
}

/** How panes lie side by side, and what each shows. */
export class ArrangedDto {
  @ValidateBy({
    name: 'isTiling',
    validator: { validate: (value) => isTiling(value), defaultMessage: () => 'tiling must be a tiling of panes' },
  })
  tiling!: Tiling;
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_PANES)
  @ValidateNested({ each: true })
  @Type(() => ArrangedPaneDto)
  panes!: ArrangedPaneDto[];
  @IsArray() @ArrayMaxSize(36) @ValidateNested({ each: true }) @Type(() => TieDto) ties!: TieDto[];
  /** The active pane. */
  @IsString() @Length(1, 40) active!: string;
}

/** An arrangement that is to be kept. */
export class KeepArrangementDto {
  /** Made by the client, so that sending it twice saves it once. */
  @IsOptional() @IsUUID() id?: string;
  @IsString() @Length(1, MOST_NAME) @Matches(/\S/, { message: 'name must not be blank' }) name!: string;
  /** Arrangements stand in the order of these numbers. */
  @IsNumber() position!: number;
  @ValidateNested() @Type(() => ArrangedDto) arranged!: ArrangedDto;
  /** A small picture as a data address. */
  @IsString() @MaxLength(MOST_PICTURE) @Matches(DATA_PICTURE) picture!: string;
}

/** An arrangement as the list tells it. */
export class ArrangementHeadDto {
  @IsUUID() id!: string;
  @IsString() @Length(1, MOST_NAME) name!: string;
  @IsNumber() position!: number;
  /** Where its picture is; empty if it has none. */
  @IsString() @MaxLength(MOST_PICTURE) picture!: string;
  /** How many panes it has. */
  @IsInt() @Min(1) panes!: number;
  /** Rises with each change. */
  @IsInt() @Min(1) version!: number;
  @IsDateString() updatedAt!: string;
}

/** A kept arrangement of panes, whole. */
export class ArrangementDto extends ArrangementHeadDto {
  @ValidateNested() @Type(() => ArrangedDto) arranged!: ArrangedDto;
}

/** What is to become of an arrangement; what is absent stays. */
export class ChangeArrangementDto {
  /** The one that the change was made of: another one in the meantime is a conflict. */
  @IsInt() @Min(1) version!: number;
  @IsOptional() @IsString() @Length(1, MOST_NAME) @Matches(/\S/, { message: 'name must not be blank' }) name?: string;
  @IsOptional() @IsNumber() position?: number;
  @IsOptional() @ValidateNested() @Type(() => ArrangedDto) arranged?: ArrangedDto;
  @IsOptional() @IsString() @MaxLength(MOST_PICTURE) @Matches(DATA_PICTURE) picture?: string;
}
