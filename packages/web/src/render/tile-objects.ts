import { Matrix4, type LineSegments, type Mesh, type Object3D } from 'three';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import { groupRuns, indicesIn, type DrawGroup } from './run-groups';
import type { TileDrawable } from './tile-drawable';
import { overlaps, type ViewRules } from './view-rules';

export interface TileObjects {
  readonly objects: readonly Object3D[];
  readonly segments: number;
  readonly triangles: number;
}

/**
 * What of a tile is drawn in a view, placed about the view's middle.
 * @param useFine whether the exact form of its lines is wanted
 * @param mayBuild whether lines with width may be made now; else they are hairlines for this time
 */
export function tileObjects(
  drawable: TileDrawable,
  target: Vec3,
  rules: ViewRules,
  useFine: boolean,
  mayBuild: () => boolean,
): TileObjects {
  const objects: Object3D[] = [];
  const { origin } = drawable;
  const shift = new Matrix4().makeTranslation(origin.x - target.x, origin.y - target.y, origin.z - target.z);
  const add = (object: Mesh | LineSegments | null, groups: DrawGroup[]): number => {
    if (!object || groups.length === 0) return 0;
    object.geometry.groups = groups;
    object.matrixWorld.copy(shift);
    objects.push(object);
    return indicesIn(groups);
  };
  const isWide = (style: number): boolean => rules.lookOf(style).toLowerCase().endsWith('stroke');
  const fills = groupRuns(drawable.triangleRuns, (style) => (rules.lookOf(style) === 'hidden' ? -1 : 0));
  const triangles = add(drawable.fills, fills) / 3;
  const body = drawable.lines(useFine);
  const { lineRuns } = body.content;
  const wantsStrokes = lineRuns.some(({ style }) => isWide(style));
  if (wantsStrokes && mayBuild()) body.buildStrokes();
  const hasStrokes = body.strokes !== null;
  const material = (wide: boolean) => (style: number) => {
    const look = rules.lookOf(style);
    if (look === 'hidden' || wide !== (hasStrokes && isWide(style))) return -1;
    return look.startsWith('dashed') ? 1 : 0;
  };
  const seen = rules.seenFrom(origin, drawable.box);
  const thin = seen ? body.pieces.filter((piece) => overlaps(piece, seen)) : lineRuns;
  let segments = add(body.hairlines, groupRuns(thin, material(false))) / 2;
  if (hasStrokes && wantsStrokes) {
    add(body.strokes, groupRuns(body.strokeRuns, material(true)));
    segments += indicesIn(groupRuns(lineRuns, material(true))) / 2;
  }
  return { objects, segments, triangles };
}
