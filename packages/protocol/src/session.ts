import 'reflect-metadata/lite';
import { Type } from 'class-transformer';
import { IsIn, IsOptional, IsString, Length, ValidateNested } from 'class-validator';
import { roles, type Role } from './roles.ts';

/** Names the access token that a server asks for. */
export class OpenSessionDto {
  @IsString() @Length(1, 1024) token!: string;
}

/** Ways to say who one is: at a service with OpenID Connect, or by the token of the server. */
export const signInWays = ['open-id', 'token'] as const;
export type SignInWay = (typeof signInWays)[number];

/** A person's name and role. */
export class SessionPersonDto {
  /** Empty where people name themselves. */
  @IsString() name!: string;
  @IsIn(roles) role!: Role;
}

/** Whether and as whom a person is signed in. */
export class SessionDto {
  /** None where nothing is asked. */
  @IsIn(signInWays, { each: true }) ways!: SignInWay[];
  /** Not there before it is known who it is. */
  @IsOptional() @ValidateNested() @Type(() => SessionPersonDto) person?: SessionPersonDto;
}
