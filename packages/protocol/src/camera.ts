import 'reflect-metadata/lite';
import { IsNumber, IsOptional, IsPositive, Max, Min } from 'class-validator';

/** A view. Drawing units; the direction as a unit quaternion that turns camera axes into world axes. */
export class CameraDto {
  @IsNumber() x!: number;
  @IsNumber() y!: number;
  @IsNumber() z!: number;
  @IsPositive() unitsPerPx!: number;
  @IsNumber() @Min(-1.000001) @Max(1.000001) qx!: number;
  @IsNumber() @Min(-1.000001) @Max(1.000001) qy!: number;
  @IsNumber() @Min(-1.000001) @Max(1.000001) qz!: number;
  @IsNumber() @Min(-1.000001) @Max(1.000001) qw!: number;
  /** In perspective: the vertical field of view. A parallel view has none. */
  @IsOptional() @IsPositive() @Max(Math.PI) fovRad?: number;
}
