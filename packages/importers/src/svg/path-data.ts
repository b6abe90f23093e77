import { PathBuilder } from '@gull-pane/core/drawing/path';
import { arcFromEnds } from './arc.ts';
import { NumberScanner } from './number-scanner.ts';

export interface PathDataResult {
  readonly path: PathBuilder;
  /** Index of the character that could not be understood; everything before it stands, as the standard asks. */
  readonly errorAt?: number;
}

/** Numbers that each command takes. */
const argumentCount: Readonly<Record<string, number>> = { m: 2, l: 2, h: 1, v: 1, c: 6, s: 4, q: 4, t: 2, a: 7, z: 0 };

/**
 * Reads the `d` attribute in user units, y down. Repeats without a letter, missing separators and flags run together
 * are read as the grammar allows.
 * Source: SVG 2, 9.3 "Path data".
 */
export function parsePathData(d: string): PathDataResult {
  const scan = new NumberScanner(d);
  const path = new PathBuilder();
  let command = '';
  // the control point that S and T mirror, and which kind of curve it belonged to
  let mirrorX = 0;
  let mirrorY = 0;
  let mirrorOf = '';
  const args = new Float64Array(7);
  for (;;) {
    scan.skipSeparators();
    if (scan.isAtEnd) return { path };
    const from = scan.at;
    const letter = d[scan.at]!;
    const wanted = argumentCount[letter.toLowerCase()];
    if (wanted !== undefined) {
      command = letter;
      scan.at++;
    } else if (command === '' || command === 'z' || command === 'Z') {
      return { path, errorAt: from };
    } else if (command === 'm') command = 'l';
    else if (command === 'M') command = 'L';
    if (path.isEmpty && command !== 'm' && command !== 'M') return { path, errorAt: from };
    const kind = command.toLowerCase();
    const count = argumentCount[kind]!;
    for (let i = 0; i < count; i++) {
      args[i] = kind === 'a' && (i === 3 || i === 4) ? scan.flag() : scan.number();
      if (Number.isNaN(args[i]!)) return { path, errorAt: scan.at };
    }
    const isRelative = command === kind;
    const baseX = isRelative ? path.x : 0;
    const baseY = isRelative ? path.y : 0;
    const x = baseX + args[count - 2]!;
    const y = baseY + args[count - 1]!;
    switch (kind) {
      case 'm':
        path.moveTo(x, y);
        break;
      case 'l':
        path.lineTo(x, y);
        break;
      case 'h':
        path.lineTo(baseX + args[0]!, path.y);
        break;
      case 'v':
        path.lineTo(path.x, baseY + args[0]!);
        break;
      case 'c':
      case 's': {
        const own = kind === 'c' ? 2 : 0;
        const isMirrored = kind === 's' && mirrorOf === 'cubic';
        const ax = kind === 'c' ? baseX + args[0]! : isMirrored ? 2 * path.x - mirrorX : path.x;
        const ay = kind === 'c' ? baseY + args[1]! : isMirrored ? 2 * path.y - mirrorY : path.y;
        mirrorX = baseX + args[own]!;
        mirrorY = baseY + args[own + 1]!;
        path.cubicTo(ax, ay, mirrorX, mirrorY, x, y);
        break;
      }
      case 'q':
      case 't': {
        const isMirrored = kind === 't' && mirrorOf === 'quadratic';
        mirrorX = kind === 'q' ? baseX + args[0]! : isMirrored ? 2 * path.x - mirrorX : path.x;
        mirrorY = kind === 'q' ? baseY + args[1]! : isMirrored ? 2 * path.y - mirrorY : path.y;
        path.quadraticTo(mirrorX, mirrorY, x, y);
        break;
      }
      case 'a': {
        if (x === path.x && y === path.y) break; // an arc that ends where it began is left out
        const [rx, ry, turn] = args as unknown as [number, number, number];
        const arc = arcFromEnds(path.x, path.y, rx, ry, turn, args[3] === 1, args[4] === 1, x, y);
        if (arc) path.arcTo(arc, x, y);
        else path.lineTo(x, y);
        break;
      }
      default:
        path.close();
    }
    mirrorOf = kind === 'c' || kind === 's' ? 'cubic' : kind === 'q' || kind === 't' ? 'quadratic' : '';
  }
}
