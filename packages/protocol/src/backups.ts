import 'reflect-metadata/lite';
import { IsBoolean, IsDateString, IsIn, IsInt, Min } from 'class-validator';

export const BACKUP_FORMAT = 'gull-pane-backup';
export const BACKUP_VERSION = 1;

/** The first entry of a backup, `manifest.json`. */
export class BackupManifestDto {
  @IsIn([BACKUP_FORMAT]) format!: typeof BACKUP_FORMAT;
  @IsInt() @Min(1) version!: number;
  @IsDateString() writtenAt!: string;
  @IsInt() @Min(0) drawings!: number;
  /** How many files follow, the database among them. */
  @IsInt() @Min(1) files!: number;
}

/** A backup is being put in place: the server is back in a moment. */
export class RestoringDto {
  @IsBoolean() isRestoring!: true;
  @IsDateString() writtenAt!: string;
  @IsInt() @Min(0) drawings!: number;
}
