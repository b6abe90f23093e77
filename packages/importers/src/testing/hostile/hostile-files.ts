import { hostileAnyFile } from './any-file.ts';
import { hostileEngineering } from './engineering.ts';
import { hostileGeoJson } from './geojson.ts';
import { hostileGltf } from './gltf.ts';
import type { HostileFile } from './hostile-file.ts';
import { hostileMesh } from './mesh.ts';
import { hostilePictures } from './pictures.ts';
import { hostilePoints } from './points.ts';
import { hostilePdf } from './pdf.ts';
import { hostileSvg } from './svg.ts';

/** All of them, by format. */
export const hostileFiles = {
  SVG: hostileSvg,
  GeoJSON: hostileGeoJson,
  PDF: hostilePdf,
  glTF: hostileGltf,
  'OBJ, STL and PLY': hostileMesh,
  points: hostilePoints,
  pictures: hostilePictures,
  'IFC and STEP': hostileEngineering,
  'any file': hostileAnyFile,
} satisfies Readonly<Record<string, readonly HostileFile[]>>;
