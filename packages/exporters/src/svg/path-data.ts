import { Op, coordsOfOp, type Path } from '@gull-pane/core/drawing/path';
import { arcPieces, principalAxes } from '../arc-pieces.ts';

/** A path as SVG writes it: every curve stays what it is. SVG has y downwards. Each number is told to its last digit. */
export function pathData({ ops, coords }: Path): string {
  const parts: string[] = [];
  const at = (index: number): string => `${coords[index]!} ${-coords[index + 1]! + 0}`;
  let k = 0;
  for (let i = 0; i < ops.length; i++) {
    const op = ops[i]!;
    switch (op) {
      case Op.move:
        parts.push(`M${at(k)}`);
        break;
      case Op.line:
        parts.push(`L${at(k)}`);
        break;
      case Op.quadratic:
        parts.push(`Q${at(k)} ${at(k + 2)}`);
        break;
      case Op.cubic:
        parts.push(`C${at(k)} ${at(k + 2)} ${at(k + 4)}`);
        break;
      case Op.arc:
        parts.push(arcData(coords, k));
        break;
      case Op.close:
        parts.push('Z');
        break;
    }
    k += coordsOfOp[op]!;
  }
  return parts.join('');
}

function arcData(coords: ArrayLike<number>, k: number): string {
  const [cx, cy, ux, uy, vx, vy, startRad, sweepRad, endX, endY] = Array.from(
    { length: 10 },
    (_, i) => coords[k + i]!,
  ) as [...[number, number, number, number, number, number, number, number, number, number]];
  const arc = { cx, cy, ux, uy, vx, vy, startRad, sweepRad };
  const { rx, ry, turnRad } = principalAxes(arc);
  // seen from above, with y upwards, anticlockwise is against SVG's sweep
  const isAnticlockwise = (ux * vy - uy * vx) * sweepRad > 0;
  const turnDeg = (-turnRad * 180) / Math.PI + 0;
  return arcPieces(arc, endX, endY)
    .map(({ x, y }) =>
      rx > 0 && ry > 0 ? `A${rx} ${ry} ${turnDeg} 0 ${isAnticlockwise ? 0 : 1} ${x} ${-y + 0}` : `L${x} ${-y + 0}`,
    )
    .join('');
}
