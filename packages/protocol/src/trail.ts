import 'reflect-metadata/lite';
import { Type } from 'class-transformer';
import { ArrayMaxSize, IsArray, IsBoolean, IsIn, IsInt, IsOptional, Min, ValidateNested } from 'class-validator';
import { CameraDto } from './camera.ts';
import { CardShowsDto } from './cards.ts';

/** So many views of a trail are kept with a drawing, the newest and those on the way to the present one. */
export const MOST_KEPT_VIEWS = 250;

export const stepKinds = [
  ...(['open', 'wheel', 'drag', 'keys', 'jump'] as const),
  ...(['look', 'kinds', 'layers', 'objects', 'clips', 'marks', 'plane', 'ground'] as const),
] as const;
export type StepKindDto = (typeof stepKinds)[number];

/** A view of a trail. */
export class TrailViewDto extends CameraDto {
  @IsIn(stepKinds) kind!: StepKindDto;
  /** Index of the view that it was reached from, −1 for the first. */
  @IsInt() @Min(-1) parent!: number;
  /** Index of the view that Forward goes to, −1 at a tip. */
  @IsInt() @Min(-1) forward!: number;
  /** Index of how the drawing was shown; as at first if absent. */
  @IsOptional() @IsInt() @Min(0) shown?: number;
  /** It was reached in another window. */
  @IsOptional() @IsBoolean() isElsewhere?: boolean;
}

/** Where a pane has been. */
export class TrailDto {
  @IsArray()
  @ArrayMaxSize(MOST_KEPT_VIEWS)
  @ValidateNested({ each: true })
  @Type(() => TrailViewDto)
  views!: TrailViewDto[];
  /** The ways in which views show the drawing. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(MOST_KEPT_VIEWS)
  @ValidateNested({ each: true })
  @Type(() => CardShowsDto)
  shown?: CardShowsDto[];
  /** Index of the view shown. */
  @IsInt() @Min(0) current!: number;
}
