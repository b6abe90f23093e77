import { compose, identityAffine, type Affine } from '@gull-pane/core/geometry/affine';
import { NumberScanner } from './number-scanner.ts';

const FUNCTION = /\s*,?\s*(matrix|translate|scale|rotate|skewX|skewY)\s*\(([^)]*)\)/y;

/**
 * Reads a `transform` attribute.
 * Source: CSS Transforms 1, 8 "Syntax of the SVG transform attribute".
 * @returns null if it is not a valid list; the standard then asks to treat it as absent
 */
export function parseTransform(text: string): Affine | null {
  let result = identityAffine;
  FUNCTION.lastIndex = 0;
  let end = 0;
  for (let match = FUNCTION.exec(text); match; match = FUNCTION.exec(text)) {
    const one = single(match[1]!, new NumberScanner(match[2]!).all());
    if (!one) return null;
    result = compose(result, one);
    end = FUNCTION.lastIndex;
  }
  return text.slice(end).trim() === '' ? result : null;
}

function single(name: string, n: readonly number[]): Affine | null {
  const turn = (angle: number): Affine => {
    const cos = Math.cos(radians(angle));
    const sin = Math.sin(radians(angle));
    return { a: cos, b: sin, c: -sin, d: cos, e: 0, f: 0 };
  };
  const [p = NaN, q, r] = n;
  switch (`${name} ${n.length}`) {
    case 'matrix 6':
      return { a: p, b: q!, c: r!, d: n[3]!, e: n[4]!, f: n[5]! };
    case 'translate 1':
    case 'translate 2':
      return { ...identityAffine, e: p, f: q ?? 0 };
    case 'scale 1':
    case 'scale 2':
      return { ...identityAffine, a: p, d: q ?? p };
    case 'rotate 1':
      return turn(p);
    case 'rotate 3':
      return compose(compose({ ...identityAffine, e: q!, f: r! }, turn(p)), { ...identityAffine, e: -q!, f: -r! });
    case 'skewX 1':
      return { ...identityAffine, c: Math.tan(radians(p)) };
    case 'skewY 1':
      return { ...identityAffine, b: Math.tan(radians(p)) };
    default:
      return null;
  }
}

const radians = (degrees: number): number => (degrees * Math.PI) / 180;
