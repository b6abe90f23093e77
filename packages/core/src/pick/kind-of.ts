import { Op, coordsOfOp, type Path } from '../drawing/path.ts';
import { Painted, type ObjectKind } from './object-index.ts';

/** Less than a whole turn by so much is still a circle, rad: writers round the ends of their arcs. */
const WHOLE_TURN_SLACK = 1e-6;

/** What a drawn element is called. @param painted bits of `Painted` */
export function kindOf({ ops, coords }: Path, painted: number): ObjectKind {
  if ((painted & Painted.picture) !== 0) return 'picture';
  const isArea = (painted & Painted.line) === 0;
  if (isArea) return 'area';
  let [lines, arcs, curves, closes, runs, sweep, at] = [0, 0, 0, 0, 0, 0, 0];
  for (let i = 0; i < ops.length; i++) {
    const op = ops[i]!;
    if (op === Op.move) runs++;
    else if (op === Op.line) lines++;
    else if (op === Op.arc) {
      arcs++;
      sweep += Math.abs(coords[at + 7]!);
    } else if (op === Op.close) closes++;
    else curves++;
    at += coordsOfOp[op]!;
  }
  if (curves > 0) return 'curve';
  if (arcs > 0 && lines === 0) return runs === 1 && sweep >= 2 * Math.PI - WHOLE_TURN_SLACK ? 'circle' : 'arc';
  if (lines === 1 && arcs === 0 && closes === 0) return 'line';
  const endsWhereItBegan = coords[0] === coords[at - 2] && coords[1] === coords[at - 1];
  return runs === 1 && (closes > 0 || endsWhereItBegan) ? 'outline' : 'polyline';
}
