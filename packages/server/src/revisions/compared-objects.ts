import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { ComparedObject } from '@gull-pane/core/compare/compare-side';
import { colourToHex } from '@gull-pane/core/drawing/colour';
import type { Style } from '@gull-pane/core/drawing/model';
import { visitPath, type Path } from '@gull-pane/core/drawing/path';
import { readStore, readTold, type StoredObject } from '../pyramid/read-store.ts';
import type { RevisionFolder } from './compare-messages.ts';

export const kindNames = ['path', 'text', 'solid'] as const;

/** The objects of a revision as they are compared, in the order of the store. */
export function* comparedObjects({ folder, layers }: RevisionFolder): Generator<ComparedObject> {
  const file = join(folder, 'styles.json');
  const styles = existsSync(file) ? (JSON.parse(readFileSync(file, 'utf8')) as Style[]) : [];
  const names = new Map(layers.map(({ id, name }) => [id, name]));
  const styleText = (number: number): string => {
    const style = styles[number];
    return style ? `${colourToHex(style.colour)} ${style.colour.a} ${style.width} ${style.dashes.join(',')}` : '';
  };
  const told = readTold(folder);
  for (const stored of readStore(folder)) {
    const key = featureId(told.get(stored.id));
    yield {
      ...shapeOf(stored),
      ...(key === null ? {} : { key }),
      layer: names.get(stored.layer) ?? '',
      style: `${styleText(stored.line)} / ${styleText(stored.fill)} ${stored.fillRule}`,
    };
  }
}

/** The id of a feature of GeoJSON. Numbers aren't taken: whoever writes the file anew numbers its features anew. */
const featureId = (json = ''): string | null => /^\{"type":"Feature","id":"((?:[^"\\]|\\.)+)"/.exec(json)?.[1] ?? null;

type Shape = Omit<ComparedObject, 'layer' | 'style'>;

function shapeOf({ path, text, solid }: StoredObject): Shape {
  if (text) {
    const { x, y, size, angleRad, anchor } = text;
    // a letter's height and slope are its make: where they differ, it was reshaped
    const make = [Math.round(size * 1e4), Math.round(angleRad * 1e6), anchor.length];
    return { kind: 1, label: text.text, key: null, make, coords: [x, y] };
  }
  if (solid) {
    const { name, id = name, parts } = solid;
    const coords = new Float64Array(parts.reduce((sum, { positions }) => sum + positions.length, 0));
    let at = 0;
    for (const { positions } of parts) {
      coords.set(positions, at);
      at += positions.length;
    }
    const make = parts.flatMap(({ material, triangles }) => [material, ...triangles]);
    return { kind: 2, label: name === '' ? null : name, key: id === '' ? null : id, make, coords };
  }
  return { kind: 0, label: null, key: null, make: path?.ops ?? [], coords: path ? pointsOf(path) : [] };
}

/** A path as points alone: where all of them have gone the same way, it was moved. */
function pointsOf(path: Path): number[] {
  const points: number[] = [];
  visitPath(path, {
    move: (x, y) => points.push(x, y),
    line: (_x0, _y0, x, y) => points.push(x, y),
    quadratic: (_x0, _y0, cx, cy, x, y) => points.push(cx, cy, x, y),
    cubic: (_x0, _y0, ax, ay, bx, by, x, y) => points.push(ax, ay, bx, by, x, y),
    arc: (_x0, _y0, { cx, cy, ux, uy, vx, vy, startRad, sweepRad }, x, y) => {
      const middle = startRad + sweepRad / 2;
      const [cos, sin] = [Math.cos(middle), Math.sin(middle)];
      points.push(cx, cy, cx + ux, cy + uy, cx + vx, cy + vy);
      points.push(cx + ux * cos + vx * sin, cy + uy * cos + vy * sin, x, y);
    },
  });
  return points;
}
