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
import { CameraDto } from './camera.ts';
import { PointDto } from './drawings.ts';

/** Names and pictures of a card may be so long, letters. */
export const MOST_NAME = 120;
const MOST_PICTURE = 40_000;
/** A set of objects may be so long, letters: any half of a million objects fits. */
export const MOST_RANGES = 200_000;
/** A set of objects as core’s `ranges.ts` writes it: ranges, or bits in runs in base 64. */
export const OBJECT_SET = /^(|\d+(-\d+)?(,\d+(-\d+)?)*|b:[A-Za-z0-9+/]+=*)$/;
/** An open format in base 64; empty for none. */
export const DATA_PICTURE = /^(data:image\/(webp|png);base64,[A-Za-z0-9+/=]*)?$/;

/** What cuts a solid open in a view that is kept. */
export class CardClipDto {
  @IsString() @MaxLength(MOST_NAME) name!: string;
  @IsIn(['box', 'plane']) kind!: 'box' | 'plane';
  @IsIn(['inside', 'outside']) keeps!: 'inside' | 'outside';
  @IsBoolean() isOn!: boolean;
  @ValidateNested() @Type(() => PointDto) centre!: PointDto;
  /** Half its sides. */
  @ValidateNested() @Type(() => PointDto) half!: PointDto;
  @IsNumber() @Min(-1.000001) @Max(1.000001) qx!: number;
  @IsNumber() @Min(-1.000001) @Max(1.000001) qy!: number;
  @IsNumber() @Min(-1.000001) @Max(1.000001) qz!: number;
  @IsNumber() @Min(-1.000001) @Max(1.000001) qw!: number;
}

/** A comment on a view. */
export class CardCommentDto {
  @IsString() @MaxLength(200) author!: string;
  /** When, by ISO 8601. */
  @IsDateString() date!: string;
  @IsString() @MaxLength(4000) text!: string;
}

/** The plane that points are placed in: axes are unit vectors at right angles. */
export class PlaneDto {
  @IsString() @MaxLength(MOST_NAME) name!: string;
  @ValidateNested() @Type(() => PointDto) origin!: PointDto;
  @ValidateNested() @Type(() => PointDto) x!: PointDto;
  @ValidateNested() @Type(() => PointDto) y!: PointDto;
}

/** How a pane shows its drawing: all that a card keeps but where it looks from. */
export class CardShowsDto {
  /** Of a solid. */
  @IsOptional() @IsString() @MaxLength(40) look?: string;
  /** Kinds of things that don't show, or not as they are: texts, fills and so on. */
  @IsOptional() @IsArray() @ArrayMaxSize(12) @IsString({ each: true }) kindsOff?: string[];
  /** Layers by their names, so that they are found again when the drawing has come in anew. */
  @IsArray() @ArrayMaxSize(2000) @IsString({ each: true }) hiddenLayers!: string[];
  /** Objects by their numbers: `3-17,20`, or as bits where that would be long. Those of another import are another's. */
  @MaxLength(MOST_RANGES) @Matches(OBJECT_SET) hiddenObjects!: string;
  /** Objects that were picked out in another program, as ranges; they are kept and passed on. */
  @IsOptional() @MaxLength(MOST_RANGES) @Matches(OBJECT_SET) picked?: string;
  /** What lay in the frame, as one number: another one means that it has changed. Absent if that isn't known. */
  @IsOptional() @IsString() @MaxLength(80) content?: string;
  /** The import that these objects are of. */
  @IsInt() @Min(0) revision!: number;
  @IsArray() @ArrayMaxSize(16) @ValidateNested({ each: true }) @Type(() => CardClipDto) clips!: CardClipDto[];
  /** Marks on top don't show. */
  @IsOptional() @IsBoolean() marksOff?: boolean;
  /** Layers of marks that don't, by name. */
  @IsOptional() @IsArray() @ArrayMaxSize(2000) @IsString({ each: true }) hiddenMarkLayers?: string[];
  /** The work plane; absent for the world's. */
  @IsOptional() @ValidateNested() @Type(() => PlaneDto) plane?: PlaneDto;
  /** The plan on a model's ground; absent for none. */
  @IsOptional() @IsUUID() groundPlan?: string;
}

/** A view without its picture and its place among others. */
export class PlainViewDto {
  @IsString() @Length(1, MOST_NAME) @Matches(/\S/, { message: 'name must not be blank' }) name!: string;
  /** Cards of one group stand together; empty for none. */
  @IsString() @MaxLength(MOST_NAME) group!: string;
  @ValidateNested() @Type(() => CameraDto) camera!: CameraDto;
  /** The pane that it was kept in, CSS px. */
  @IsPositive() widthPx!: number;
  @IsPositive() heightPx!: number;
  @ValidateNested() @Type(() => CardShowsDto) shows!: CardShowsDto;
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(200)
  @ValidateNested({ each: true })
  @Type(() => CardCommentDto)
  comments?: CardCommentDto[];
}

/** All of a view but its picture. */
class ViewDto extends PlainViewDto {
  /** Cards stand in the order of these numbers. */
  @IsNumber() position!: number;
}

/** A view that is to be kept. */
export class KeepCardDto extends ViewDto {
  /** Made by the client, so that sending it twice saves it once; to bring back a card that was deleted. */
  @IsOptional() @IsUUID() id?: string;
  /** A small picture as a data address. */
  @IsString() @MaxLength(MOST_PICTURE) @Matches(DATA_PICTURE) picture!: string;
}

/** A kept view of a drawing. */
export class CardDto extends ViewDto {
  @IsUUID() id!: string;
  @IsUUID() drawingId!: string;
  /** Where its picture is; empty if it has none. */
  @IsString() @MaxLength(MOST_PICTURE) picture!: string;
  /** Rises with each change. */
  @IsInt() @Min(1) version!: number;
  @IsDateString() updatedAt!: string;
}

/** What is to become of a card; what is absent stays. */
export class ChangeCardDto {
  /** The one that the change was made of: another one in the meantime is a conflict. */
  @IsInt() @Min(1) version!: number;
  @IsOptional() @IsString() @Length(1, MOST_NAME) @Matches(/\S/, { message: 'name must not be blank' }) name?: string;
  @IsOptional() @IsString() @MaxLength(MOST_NAME) group?: string;
  @IsOptional() @IsNumber() position?: number;
  @IsOptional() @ValidateNested() @Type(() => CameraDto) camera?: CameraDto;
  @IsOptional() @IsPositive() widthPx?: number;
  @IsOptional() @IsPositive() heightPx?: number;
  @IsOptional() @ValidateNested() @Type(() => CardShowsDto) shows?: CardShowsDto;
  @IsOptional() @IsString() @MaxLength(MOST_PICTURE) @Matches(DATA_PICTURE) picture?: string;
}
