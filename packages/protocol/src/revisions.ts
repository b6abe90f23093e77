import 'reflect-metadata/lite';
import { Type } from 'class-transformer';
import { IsBoolean, IsDateString, IsIn, IsInt, IsString, MaxLength, Min, ValidateNested } from 'class-validator';
import { CountsDto } from './drawings.ts';

/** One import of a drawing whose content is kept. */
export class RevisionDto {
  /** Rises with each import. */
  @IsInt() @Min(1) number!: number;
  /** What people call it; empty while nobody has named it. */
  @IsString() name!: string;
  /** Of the file, without folders and ending. */
  @IsString() fileName!: string;
  @IsInt() @Min(0) sourceBytes!: number;
  @ValidateNested() @Type(() => CountsDto) counts!: CountsDto;
  @IsDateString() importedAt!: string;
  /** Whether the drawing shows it. */
  @IsBoolean() isCurrent!: boolean;
}

/** What a revision is to be called; empty for its number. */
export class RenameRevisionDto {
  @IsString() @MaxLength(120) name!: string;
}

/** What a checker thinks of a change. */
export const reviewStates = ['seen', 'accepted', 'questioned'] as const;
export type ReviewState = (typeof reviewStates)[number];

const MOST_PERSON = 80;
const MOST_NOTE = 2000;

/** What somebody said of one change. */
export class ReviewDto {
  /** {@link ChangeDto.key} */
  @IsString() @MaxLength(40) change!: string;
  @IsString() @MaxLength(MOST_PERSON) person!: string;
  @IsIn(reviewStates) state!: ReviewState;
  @IsString() @MaxLength(MOST_NOTE) note!: string;
  @IsDateString() updatedAt!: string;
}

/** What a person thinks of a change; `open` takes it back. */
export class KeepReviewDto {
  @IsString() @MaxLength(40) change!: string;
  @IsString() @MaxLength(MOST_PERSON) person!: string;
  @IsIn([...reviewStates, 'open']) state!: ReviewState | 'open';
  @IsString() @MaxLength(MOST_NOTE) note!: string;
}

/** What somebody has seen of a revision. */
export class SeenDto {
  /** A bit an object, by its number: bytes in base64 (RFC 4648), empty for nothing. */
  @IsString() @MaxLength(4_000_000) bits!: string;
}
