import { chordsFor, type LinePiece } from '@gull-pane/core/pyramid/arrange';
import type { TilePart } from '../../tiles/tile-worker';
import type { DrawLists, FlatKind } from './batch/draw-lists';
import type { InBlock } from './line-body';
import type { TileDrawable } from './tile-drawable';
import { isShared, isStandInShared, type TileShare } from './tile-share';
import { overlaps, type LineLook, type ViewRules } from './view-rules';

export interface TileCounts {
  readonly segments: number;
  readonly triangles: number;
}

/**
 * Adds what of a tile is drawn in a view to what is drawn together.
 * @param share what of it is large enough, and what is there already
 * @param fineFor the pane whose exact form of its lines or areas is wanted; null if the coarse one does
 * @param mayBuild whether lines with width may be made now; else they are hairlines for this time
 */
export function listTile(
  lists: DrawLists,
  drawable: TileDrawable,
  rules: ViewRules,
  share: TileShare,
  fineFor: (part: TilePart) => string | null,
  mayBuild: () => boolean,
): TileCounts {
  const add = (kind: FlatKind, { block, start: first }: InBlock, { start, count }: Stretch): number => {
    lists.add(kind, block, first + start, count);
    return count;
  };
  let [lineIndices, triangleIndices] = [0, 0];
  if (share.below === Infinity) {
    const { content, triangles } = drawable.fills(fineFor('fills'));
    for (const run of content.triangleRuns)
      if (rules.lookOf(run.style) !== 'hidden') triangleIndices += add('fill', triangles, run);
  }
  const body = drawable.lines(fineFor('lines'));
  const seen = rules.seenFrom(drawable.origin, drawable.box);
  body.content.lineRuns.forEach((piece, index) => {
    const look = rules.lookOf(piece.style);
    if (look === 'hidden' || !isWanted(piece, share) || (seen && !overlaps(piece, seen))) return;
    const isWide = look === 'stroke' || look === 'dashedStroke';
    if (isWide && !body.strokes && mayBuild()) body.buildStrokes();
    if (isWide && body.strokes) {
      add(look, body.strokes, body.strokes.runs[index]!);
      lineIndices += piece.count;
    } else {
      const chords = chordsFor(piece, piece.sizeUpTo / share.unitsPerPx);
      lineIndices += add(hairlineFor[look], body.hairlines, chords);
    }
  });
  for (const run of drawable.content.standIns.pieces)
    if (
      !rules.isWithoutStandIns &&
      isStandInShared(run.sizeUpTo, run.child, share) &&
      rules.lookOf(run.style) !== 'hidden'
    )
      lineIndices += add('hairline', drawable.standIns, run);
  return { segments: lineIndices / 2, triangles: triangleIndices / 3 };
}

interface Stretch {
  readonly start: number;
  readonly count: number;
}

const isWanted = ({ sizeUpTo }: LinePiece, share: TileShare): boolean => isShared(sizeUpTo, share);

const hairlineFor: Record<Exclude<LineLook, 'hidden'>, FlatKind> = {
  hairline: 'hairline',
  stroke: 'hairline',
  dashedHairline: 'dashedHairline',
  dashedStroke: 'dashedHairline',
};
