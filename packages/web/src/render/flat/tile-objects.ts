import { Matrix4, type LineSegments, type Mesh, type Object3D } from 'three';
import { chordsFor, type LinePiece } from '@gull-pane/core/pyramid/arrange';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import type { TilePart } from '../../tiles/tile-worker';
import { groupRuns, indicesIn, type DrawGroup } from './run-groups';
import type { TileDrawable } from './tile-drawable';
import { isShared, isStandInShared, type TileShare } from './tile-share';
import { overlaps, type LineLook, type ViewRules } from './view-rules';

export interface TileObjects {
  readonly objects: readonly Object3D[];
  readonly segments: number;
  readonly triangles: number;
}

/**
 * What of a tile is drawn in a view, placed about the view's middle.
 * @param share what of it is large enough, and what is there already
 * @param fineFor the pane whose exact form of its lines or areas is wanted; null if the coarse one does
 * @param mayBuild whether lines with width may be made now; else they are hairlines for this time
 */
export function tileObjects(
  drawable: TileDrawable,
  target: Vec3,
  rules: ViewRules,
  share: TileShare,
  fineFor: (part: TilePart) => string | null,
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
  let triangles = 0;
  if (share.below === Infinity) {
    const fills = drawable.fills(fineFor('fills'));
    const groups = groupRuns(fills.content.triangleRuns, (style) => (rules.lookOf(style) === 'hidden' ? -1 : 0));
    triangles = add(fills.mesh, groups) / 3;
  }
  const body = drawable.lines(fineFor('lines'));
  const seen = rules.seenFrom(origin, drawable.box);
  const isWanted = (piece: LinePiece): boolean => isShared(piece.sizeUpTo, share) && (!seen || overlaps(piece, seen));
  const pieces = body.content.lineRuns.filter(isWanted);
  const chords = pieces.map((piece) => ({
    style: piece.style,
    ...chordsFor(piece, piece.sizeUpTo / share.unitsPerPx),
  }));
  const wantsStrokes = pieces.some(({ style }) => isStroke[rules.lookOf(style)]);
  if (wantsStrokes && mayBuild()) body.buildStrokes();
  const hasStrokes = body.strokes !== null;
  const material = (wide: boolean) => (style: number) => {
    const look = rules.lookOf(style);
    if (look === 'hidden' || wide !== (hasStrokes && isStroke[look])) return -1;
    return isDashed[look] ? 1 : 0;
  };
  let segments = add(body.hairlines, groupRuns(chords, material(false))) / 2;
  if (hasStrokes && wantsStrokes) {
    add(body.strokes, groupRuns(body.strokeRuns.filter(isWanted), material(true)));
    segments += indicesIn(groupRuns(pieces, material(true))) / 2;
  }
  const standIns = drawable.standIns.content.pieces.filter(
    ({ sizeUpTo, child }) => !rules.isWithoutStandIns && isStandInShared(sizeUpTo, child, share),
  );
  segments +=
    add(
      drawable.standIns.hairlines,
      groupRuns(standIns, (style) => (rules.lookOf(style) === 'hidden' ? -1 : 0)),
    ) / 2;
  return { objects, segments, triangles };
}

const isStroke: Record<LineLook, boolean> = {
  hidden: false,
  hairline: false,
  dashedHairline: false,
  stroke: true,
  dashedStroke: true,
};
const isDashed: Record<LineLook, boolean> = {
  hidden: false,
  hairline: false,
  stroke: false,
  dashedHairline: true,
  dashedStroke: true,
};
