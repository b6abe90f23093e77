/// <reference path="../../../protocol/src/class-transformer-storage.d.ts" />
import { defaultMetadataStorage } from 'class-transformer/cjs/storage.js';
import { validationMetadatasToSchemas } from 'class-validator-jsonschema';
import { ViewsFileDto } from '../json-views.ts';

const NEEDED = [
  'ViewsFileDto',
  'ViewInFileDto',
  'CameraDto',
  'CardShowsDto',
  'CardClipDto',
  'PlaneDto',
  'CardCommentDto',
  'PointDto',
];

/** What docs/views.schema.json holds: the schema of a file of views, made of the checks that reading does. */
export function viewsSchema(): object {
  const schemas = validationMetadatasToSchemas({
    classTransformerMetadataStorage: defaultMetadataStorage,
    refPointerPrefix: '#/$defs/',
  });
  const defs = Object.fromEntries(NEEDED.map((name) => [name, schemas[name]]));
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'Views of a drawing',
    $ref: `#/$defs/${ViewsFileDto.name}`,
    $defs: defs,
  };
}
