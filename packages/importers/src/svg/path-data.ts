import { PathBuilder } from '@gull-pane/core/drawing/path';
import { arcFromEnds } from './arc.ts';
import { NumberScanner } from './number-scanner.ts';

export interface PathDataResult {
  readonly path: PathBuilder;
  /** Index of the character that could not be understood; everything before it stands, as the standard asks. */
  readonly errorAt?: number;
}

/** Numbers that each command takes, by the code of its small letter; −1 for what is none. */
const argumentCount = new Int8Array(128).fill(-1);
for (const [letter, count] of Object.entries({ m: 2, l: 2, h: 1, v: 1, c: 6, s: 4, q: 4, t: 2, a: 7, z: 0 }))
  argumentCount[letter.charCodeAt(0)] = count;
/** What tells a small letter from a capital in ASCII. */
const SMALL = 0x20;
const code = (letter: string): number => letter.charCodeAt(0);
const [M, L, H, V, C, S, Q, T, A, Z] = [...'mlhvcsqtaz'].map(code) as [
  ...[number, number, number, number, number],
  ...[number, number, number, number, number],
];

/**
 * Reads the `d` attribute in user units, y down. Repeats without a letter, missing separators and flags run together
 * are read as the grammar allows.
 * Source: SVG 2, 9.3 "Path data".
 */
export function parsePathData(d: string): PathDataResult {
  const scan = new NumberScanner(d);
  const path = new PathBuilder();
  /** The small letter of the command, 0 before the first one, and whether it was small. */
  let command = 0;
  let isRelative = false;
  // the control point that S and T mirror, and which kind of curve it belonged to: C or Q, 0 for none
  let mirrorX = 0;
  let mirrorY = 0;
  let mirrorOf = 0;
  const args = new Float64Array(7);
  for (;;) {
    scan.skipSeparators();
    if (scan.isAtEnd) return { path };
    const from = scan.at;
    const character = d.charCodeAt(from);
    const letter = character | SMALL;
    if (character >= 0x40 && character < 0x80 && argumentCount[letter]! >= 0) {
      command = letter;
      isRelative = character === letter;
      scan.at++;
    } else if (command === 0 || command === Z) return { path, errorAt: from };
    else if (command === M) command = L;
    if (path.isEmpty && command !== M) return { path, errorAt: from };
    const count = argumentCount[command]!;
    for (let i = 0; i < count; i++) {
      const value = command === A && (i === 3 || i === 4) ? scan.flag() : scan.number();
      if (Number.isNaN(value)) return { path, errorAt: scan.at };
      args[i] = value;
    }
    const baseX = isRelative ? path.x : 0;
    const baseY = isRelative ? path.y : 0;
    const x = baseX + args[count - 2]!;
    const y = baseY + args[count - 1]!;
    switch (command) {
      case M:
        path.moveTo(x, y);
        break;
      case L:
        path.lineTo(x, y);
        break;
      case H:
        path.lineTo(baseX + args[0]!, path.y);
        break;
      case V:
        path.lineTo(path.x, baseY + args[0]!);
        break;
      case C:
      case S: {
        const own = command === C ? 2 : 0;
        const isMirrored = command === S && mirrorOf === C;
        const ax = command === C ? baseX + args[0]! : isMirrored ? 2 * path.x - mirrorX : path.x;
        const ay = command === C ? baseY + args[1]! : isMirrored ? 2 * path.y - mirrorY : path.y;
        mirrorX = baseX + args[own]!;
        mirrorY = baseY + args[own + 1]!;
        path.cubicTo(ax, ay, mirrorX, mirrorY, x, y);
        break;
      }
      case Q:
      case T: {
        const isMirrored = command === T && mirrorOf === Q;
        mirrorX = command === Q ? baseX + args[0]! : isMirrored ? 2 * path.x - mirrorX : path.x;
        mirrorY = command === Q ? baseY + args[1]! : isMirrored ? 2 * path.y - mirrorY : path.y;
        path.quadraticTo(mirrorX, mirrorY, x, y);
        break;
      }
      case A: {
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
    mirrorOf = command === C || command === S ? C : command === Q || command === T ? Q : 0;
  }
}
