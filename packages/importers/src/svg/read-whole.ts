/** Reads whole files for tests of the reader. */
import type { PathElement, PictureElement, TextElement } from '@gull-pane/core/drawing/model';
import { visitExtremes } from '@gull-pane/core/drawing/extents';
import type { Path } from '@gull-pane/core/drawing/path';
import { ReadError } from '../read-error.ts';
import { ReferenceScan } from './definitions.ts';
import { defaultSvgLimits } from './limits.ts';
import { PreparationReader } from './preparation.ts';
import { SvgReader, type SvgReadResult } from './read-svg.ts';

export interface WholeRead extends SvgReadResult {
  readonly paths: PathElement[];
  readonly texts: TextElement[];
  readonly pictures: PictureElement[];
}

/** @param pieceLength characters that are handed over at a time */
export function readWhole(text: string, pieceLength = text.length, limits = defaultSvgLimits): WholeRead {
  const scan = new ReferenceScan();
  scan.write(text);
  const first = new PreparationReader(scan.references, limits);
  first.write(text);
  const paths: PathElement[] = [];
  const texts: TextElement[] = [];
  const pictures: PictureElement[] = [];
  const sink = {
    path: (p: PathElement) => void paths.push(p),
    text: (t: TextElement) => void texts.push(t),
    picture: (p: PictureElement) => void pictures.push(p),
  };
  const reader = new SvgReader(sink, first.end(), limits);
  for (let at = 0; at < text.length; at += pieceLength) reader.write(text.slice(at, at + pieceLength));
  return { ...reader.end(), paths, texts, pictures };
}

/** minX, minY, maxX, maxY in drawing coordinates. */
export function boxOf(path: Path): number[] {
  const box = [Infinity, Infinity, -Infinity, -Infinity];
  visitExtremes(path, (x, y) => {
    [box[0], box[1]] = [Math.min(box[0]!, x), Math.min(box[1]!, y)];
    [box[2], box[3]] = [Math.max(box[2]!, x), Math.max(box[3]!, y)];
  });
  return box;
}

/** Why a file is refused. */
export function faultOf(text: string): ReadError {
  try {
    readWhole(text);
  } catch (error) {
    if (error instanceof ReadError) return error;
    throw error;
  }
  throw new Error('expected a ReadError');
}
