import 'reflect-metadata/lite';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
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
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { easings, type Easing } from '@gull-pane/core/tour/easing';
import { MOST_TIME_MS } from '@gull-pane/core/tour/retime';
import { lookMoments, type LookMoment } from '@gull-pane/core/tour/timeline';
import { MOST_NAME } from './cards.ts';

/** The most stops of a tour. */
export const MOST_STOPS = 200;
const MOST_CAPTION = 400;
const MOST_DRIFT_RAD_PER_S = Math.PI;

/** A stop of a tour: a view card, how one gets there, and how long one stays. */
export class StopDto {
  /** Its own name, so that a card may be a stop more than once. */
  @IsUUID() id!: string;
  @IsUUID() cardId!: string;
  /** What is written below while one is there; empty for the card's name. */
  @IsString() @MaxLength(MOST_CAPTION) caption!: string;
  /** Of the way to this stop; 0 is a cut. */
  @IsInt() @Min(0) @Max(MOST_TIME_MS) travelMs!: number;
  @IsInt() @Min(0) @Max(MOST_TIME_MS) stayMs!: number;
  @IsIn(easings) easing!: Easing;
  /** When, on the way, things begin to look as they do there. */
  @IsIn(lookMoments) looksChange!: LookMoment;
  /** While one stays, the view turns so fast about the upright axis. */
  @IsNumber() @Min(-MOST_DRIFT_RAD_PER_S) @Max(MOST_DRIFT_RAD_PER_S) driftRadPerS!: number;
}

class TourContentDto {
  @IsString() @Length(1, MOST_NAME) @Matches(/\S/, { message: 'name must not be blank' }) name!: string;
  /** Tours stand in the order of these numbers. */
  @IsNumber() position!: number;
  @IsBoolean() loops!: boolean;
  @IsArray() @ArrayMaxSize(MOST_STOPS) @ValidateNested({ each: true }) @Type(() => StopDto) stops!: StopDto[];
}

/** A tour that is to be kept. */
export class KeepTourDto extends TourContentDto {
  /** Made by the client, so that sending it twice saves it once. */
  @IsOptional() @IsUUID() id?: string;
}

/** A kept tour. */
export class TourDto extends TourContentDto {
  @IsUUID() id!: string;
  @IsUUID() drawingId!: string;
  /** Rises with each change. */
  @IsInt() @Min(1) version!: number;
  @IsDateString() updatedAt!: string;
}

/** What is to become of a tour; what is absent stays. */
export class ChangeTourDto {
  /** The one that the change was made of: another one in the meantime is a conflict. */
  @IsInt() @Min(1) version!: number;
  @IsOptional() @IsString() @Length(1, MOST_NAME) @Matches(/\S/, { message: 'name must not be blank' }) name?: string;
  @IsOptional() @IsNumber() position?: number;
  @IsOptional() @IsBoolean() loops?: boolean;
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(MOST_STOPS)
  @ValidateNested({ each: true })
  @Type(() => StopDto)
  stops?: StopDto[];
}
