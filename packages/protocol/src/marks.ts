import 'reflect-metadata/lite';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsIn,
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
import { lineStyles, markKinds, type LineStyle, type Mark, type MarkKind } from '@gull-pane/core/marks/mark';
import { MOST_NAME } from './cards.ts';
import { PointDto } from './drawings.ts';

/** Marks of one drawing, points of one mark, places of one ring of a hatch. */
export const MOST_MARKS = 20_000;
const MOST_POINTS = 5000;
const MOST_RING_NUMBERS = 200_000;
const MOST_RINGS = 2000;
/** Marks that are changed at once. */
const MOST_AT_ONCE = 5000;

/** A closed ring of a hatch: x, y pairs in the mark's plane about its first point. */
export class RingDto {
  @IsArray() @ArrayMaxSize(MOST_RING_NUMBERS) @IsNumber({}, { each: true }) places!: number[];
}

/** Something drawn on top of a drawing. */
export class MarkDto {
  @IsUUID() id!: string;
  @IsIn(markKinds) kind!: MarkKind;
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(MOST_POINTS)
  @ValidateNested({ each: true })
  @Type(() => PointDto)
  points!: PointDto[];
  /** Axes of the plane that it was drawn in. */
  @ValidateNested() @Type(() => PointDto) x!: PointDto;
  @ValidateNested() @Type(() => PointDto) y!: PointDto;
  @IsString() @Length(1, MOST_NAME) @Matches(/\S/, { message: 'layer must not be blank' }) layer!: string;
  @Matches(/^#[0-9a-f]{6}$/) colour!: string;
  @IsIn(lineStyles) line!: LineStyle;
  @IsNumber() @Min(0.05) @Max(5) widthMm!: number;
  @IsString() @MaxLength(4000) text!: string;
  /** Of a measurement: what was measured. */
  @IsOptional() @IsString() @MaxLength(40) measure?: string;
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(MOST_RINGS)
  @ValidateNested({ each: true })
  @Type(() => RingDto)
  rings?: RingDto[];
}

/** Marks that become so, and those that go. All of it is done, or nothing. */
export class ChangeMarksDto {
  @IsArray() @ArrayMaxSize(MOST_AT_ONCE) @ValidateNested({ each: true }) @Type(() => MarkDto) put!: MarkDto[];
  @IsArray() @ArrayMaxSize(MOST_AT_ONCE) @IsUUID(undefined, { each: true }) remove!: string[];
  /** The window that changes them, which needn't be told. */
  @IsUUID() by!: string;
}

/** A mark as the core has it. */
export const markOf = ({ rings, measure, ...mark }: MarkDto): Mark => ({
  ...mark,
  ...(measure === undefined ? {} : { measure }),
  ...(rings ? { rings: rings.map(({ places }) => places) } : {}),
});

/** A mark as the interface sends it. */
export const markDto = ({ rings, measure, points, ...mark }: Mark): MarkDto => ({
  ...mark,
  points: points.map(({ x, y, z }) => ({ x, y, z })),
  ...(measure === undefined ? {} : { measure }),
  ...(rings ? { rings: rings.map((places) => ({ places: [...places] })) } : {}),
});
