import 'reflect-metadata/lite';
import { Type } from 'class-transformer';
import { IsIn, IsInt, IsOptional, IsUUID, Min, ValidateNested } from 'class-validator';
import type { ProblemDetails } from './problems.ts';

export const jobStates = ['queued', 'running', 'done', 'failed', 'cancelled'] as const;
export type JobState = (typeof jobStates)[number];

export const hasEnded = (state: JobState): boolean => state === 'done' || state === 'failed' || state === 'cancelled';

export class JobProgressDto {
  @IsInt() @Min(0) bytesRead!: number;
  @IsInt() @Min(0) bytesTotal!: number;
  @IsInt() @Min(0) objects!: number;
}

export class JobDto {
  @IsUUID() id!: string;
  @IsUUID() drawingId!: string;
  @IsIn(jobStates) state!: JobState;
  @ValidateNested() @Type(() => JobProgressDto) progress!: JobProgressDto;
  @IsOptional() error?: ProblemDetails;
}
