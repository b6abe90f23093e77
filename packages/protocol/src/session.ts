import 'reflect-metadata/lite';
import { IsString, Length } from 'class-validator';

/** Names the access token that a server asks for. */
export class OpenSessionDto {
  @IsString() @Length(1, 1024) token!: string;
}
