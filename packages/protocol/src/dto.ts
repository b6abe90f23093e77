import 'reflect-metadata/lite';
import { plainToInstance, type ClassConstructor } from 'class-transformer';
import { validateSync, type ValidationError } from 'class-validator';

/** Says which fields don't keep to the protocol. */
export class DtoError extends Error {
  override readonly name = 'DtoError';
}

/**
 * Makes a checked DTO of plain JSON; both sides of the wire use it.
 * @throws DtoError naming each field that is wrong
 */
export function readDto<T extends object>(type: ClassConstructor<T>, json: unknown): T {
  if (typeof json !== 'object' || json === null || Array.isArray(json)) {
    throw new DtoError(`expected an object, got ${Array.isArray(json) ? 'an array' : typeof json}`);
  }
  const dto = plainToInstance(type, json);
  const errors = validateSync(dto, { whitelist: true, forbidUnknownValues: true });
  if (errors.length > 0) throw new DtoError(errors.flatMap((error) => describe(error, '')).join('; '));
  return dto;
}

/** Like {@link readDto} for a list. */
export function readDtoList<T extends object>(type: ClassConstructor<T>, json: unknown): T[] {
  if (!Array.isArray(json)) throw new DtoError(`expected an array, got ${typeof json}`);
  return json.map((entry: unknown) => readDto(type, entry));
}

function describe(error: ValidationError, path: string): string[] {
  const here = `${path}${error.property}`;
  const own = Object.values(error.constraints ?? {}).map((text) => `${path}${text}`);
  return own.length > 0 ? own : (error.children ?? []).flatMap((child) => describe(child, `${here}.`));
}
