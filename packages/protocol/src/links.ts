import 'reflect-metadata/lite';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsIn,
  IsInt,
  IsString,
  Length,
  Matches,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { ArrangedDto } from './arrangements.ts';
import { DRAWING_ADDRESS } from './drawings.ts';

/** What a link tells of a drawing, so that another server can say what is missing, or has it under another id. */
export class LinkedDrawingDto {
  @Matches(DRAWING_ADDRESS) id!: string;
  @IsString() @MaxLength(400) name!: string;
  @IsIn(['flat', 'solid']) kind!: 'flat' | 'solid';
  @IsInt() @Min(0) objects!: number;
}

/** All that a link opens: panes with what they show. */
export class LinkedDto {
  @ValidateNested() @Type(() => ArrangedDto) arranged!: ArrangedDto;
  @IsArray()
  @ArrayMaxSize(9)
  @ValidateNested({ each: true })
  @Type(() => LinkedDrawingDto)
  drawings!: LinkedDrawingDto[];
}

/** Where a link that is kept on the server is found again. */
export class LinkIdDto {
  @IsString() @Length(10, 10) @Matches(/^[a-z2-7]+$/) id!: string;
}
