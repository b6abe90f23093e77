import 'reflect-metadata/lite';
import { Type } from 'class-transformer';
import { IsIn, IsInt, IsOptional, IsUUID, Min, ValidateNested } from 'class-validator';
import type { ProblemDetails } from './problems.ts';

export const jobStates = ['queued', 'running', 'done', 'failed', 'cancelled'] as const;
export type JobState = (typeof jobStates)[number];

/** Whether a job will not change any more. */
export const hasEnded = (state: JobState): boolean => state === 'done' || state === 'failed' || state === 'cancelled';

/** What an import does, one after the other: reads, arranges what it has read in tiles, writes these, saves the rest. */
export const importStages = ['reading', 'arranging', 'tiles', 'saving'] as const;
export type ImportStage = (typeof importStages)[number];

/** How far an import is. */
export class JobProgressDto {
  @IsIn(importStages) stage!: ImportStage;
  @IsInt() @Min(0) bytesRead!: number;
  @IsInt() @Min(0) bytesTotal!: number;
  @IsInt() @Min(0) objects!: number;
  /** Tiles that are written, and how many there will be; 0 while that isn't known. */
  @IsInt() @Min(0) tiles!: number;
  @IsInt() @Min(0) tilesTotal!: number;
}

/** An import, from the queue to its end. */
export class JobDto {
  @IsUUID() id!: string;
  @IsUUID() drawingId!: string;
  @IsIn(jobStates) state!: JobState;
  @ValidateNested() @Type(() => JobProgressDto) progress!: JobProgressDto;
  @IsOptional() error?: ProblemDetails;
}
