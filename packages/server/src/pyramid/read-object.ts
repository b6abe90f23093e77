import { open, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { colourToHex } from '@gull-pane/core/drawing/colour';
import type { Style, TextMark } from '@gull-pane/core/drawing/model';
import { visitPath, type Path } from '@gull-pane/core/drawing/path';
import type { ObjectDto, SegmentDto, SolidDto } from '@gull-pane/protocol/objects';
import {
  HEADER_BYTES,
  numbersIn,
  padded,
  solidOf,
  unpackStyle,
  type PackedStyle,
  type SolidHead,
} from './object-record.ts';

/** One object of a drawing. @returns null if the drawing has no such object */
export async function readObject(folder: string, id: number): Promise<ObjectDto | null> {
  const index = await open(join(folder, 'objects.index'));
  try {
    const entry = Buffer.alloc(16);
    if ((await index.read(entry, 0, 16, 16 * id)).bytesRead < 16) return null;
    const [offset, layerId] = [entry.readDoubleLE(0), entry.readDoubleLE(8)];
    const file = await open(join(folder, 'objects.bin'));
    try {
      const header = Buffer.alloc(HEADER_BYTES);
      await file.read(header, 0, HEADER_BYTES, offset);
      const [kind, length, doubles] = [header.readUInt32LE(0), header.readUInt32LE(4), header.readUInt32LE(8)];
      const first = Buffer.alloc(padded(length));
      await file.read(first, 0, first.length, offset + HEADER_BYTES);
      const head = kind === 2 ? (JSON.parse(first.subarray(0, length).toString()) as SolidHead) : null;
      if (head && doubles > MOST_TOLD && head.parts.every(({ colours }) => colours !== undefined))
        return { id, layerId, kind: 'solid', solid: countedOnly(head) };
      const body = Buffer.alloc(padded(length) + 8 * doubles);
      await file.read(body, 0, body.length, offset + HEADER_BYTES);
      if (kind === 1) {
        const { text, x, y, size, angleRad, anchor } = JSON.parse(body.subarray(0, length).toString()) as TextMark;
        return { id, layerId, kind: 'text', text: { text, x, y, size, angleRad, anchor } };
      }
      const coords = [...numbersIn(body, padded(length), doubles)];
      if (head) {
        const faces = new Map<number, number[]>();
        for (const { facesAt, triangles } of head.parts) {
          if (facesAt === undefined) continue;
          const list = Buffer.alloc(8 * triangles);
          await file.read(list, 0, list.length, facesAt);
          faces.set(facesAt, [...numbersIn(list, 0, triangles)]);
        }
        return { id, layerId, kind: 'solid', solid: solidOf(head, coords, ({ at }) => faces.get(at)!) };
      }
      const style = await styleOf(folder, unpackStyle(header.readUInt32LE(12)));
      const segments = segmentsOf({ ops: body.subarray(0, length), coords });
      return { id, layerId, kind: 'path', ...(style ? { style } : {}), segments };
    } finally {
      await file.close();
    }
  } finally {
    await index.close();
  }
}

/** Drawings that came in before styles were kept have none. */
async function styleOf(folder: string, { line, fill }: PackedStyle): Promise<ObjectDto['style']> {
  const told = await readFile(join(folder, 'styles.json'), 'utf8').catch(() => '[]');
  const style = (JSON.parse(told) as Style[])[line >= 0 ? line : fill];
  return style && { colour: colourToHex(style.colour), width: style.width, dashes: style.dashes };
}

/** A set of points of more numbers isn't told one by one: its tiles hold the same doubles. */
const MOST_TOLD = 300_000;

const countedOnly = ({ parts, ...head }: SolidHead): SolidDto => ({
  ...head,
  parts: parts.map(({ material, positions }) => ({
    material,
    positions: [],
    triangles: [],
    edges: [],
    points: { count: positions / 3, colours: [] },
  })),
});

function segmentsOf(path: Path): SegmentDto[] {
  const segments: SegmentDto[] = [];
  visitPath(path, {
    line: (x0, y0, x, y) => segments.push({ kind: 'line', from: [x0, y0], to: [x, y] }),
    quadratic: (x0, y0, cx, cy, x, y) =>
      segments.push({ kind: 'quadratic', from: [x0, y0], control: [cx, cy], to: [x, y] }),
    cubic: (x0, y0, ax, ay, bx, by, x, y) =>
      segments.push({
        kind: 'cubic',
        from: [x0, y0],
        controls: [
          [ax, ay],
          [bx, by],
        ],
        to: [x, y],
      }),
    arc: (x0, y0, arc, x, y) =>
      segments.push({
        kind: 'arc',
        from: [x0, y0],
        to: [x, y],
        centre: [arc.cx, arc.cy],
        halfAxes: [
          [arc.ux, arc.uy],
          [arc.vx, arc.vy],
        ],
        startRad: arc.startRad,
        sweepRad: arc.sweepRad,
      }),
  });
  return segments;
}
