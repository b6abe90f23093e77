import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { numbersOfRanges } from '@gull-pane/core/drawing/ranges';
import type { Mark } from '@gull-pane/core/marks/mark';
import { paperChanges, paperUnseen } from '@gull-pane/core/sheets/paper-changes';
import { paperMarks } from '@gull-pane/core/sheets/paper-marks';
import { projectionOf } from '@gull-pane/core/sheets/frame-camera';
import type { SheetPart } from '@gull-pane/core/sheets/sheet-part';
import type { ComparisonDto } from '@gull-pane/protocol/comparison';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { SheetFrameDto } from '@gull-pane/protocol/sheet-sets';
import type { SolidTable } from '@gull-pane/protocol/solid-table';
import { ObjectBoxes } from '../exports/object-boxes.ts';

/** What lies on top of drawings on paper. */
export interface OverlaySources {
  /** Of the content. */
  readonly folder: string;
  readonly drawing: DrawingDto;
  readonly marks: readonly Mark[];
  /** Files of comparisons by the revision that they begin with. */
  readonly comparisons: Readonly<Record<number, string>>;
  /** What people have seen, a bit an object in base64, by their names. */
  readonly seen: Readonly<Record<string, string>>;
}

/** Draws on top of frames: marks, changes, what nobody has seen yet. */
export class FrameOverlays {
  readonly #comparisons = new Map<number, ComparisonDto>();
  #boxes: ObjectBoxes | null = null;
  #table: SolidTable | null = null;

  constructor(private readonly sources: OverlaySources) {}

  /** Where the objects of a plan are; read once. */
  get boxes(): ObjectBoxes {
    return (this.#boxes ??= new ObjectBoxes(this.sources.folder));
  }

  /** What nobody has seen yet, what has changed, and marks, in their order of painting. */
  of(frame: SheetFrameDto): readonly SheetPart[] {
    const { drawing, marks } = this.sources;
    const { shows } = frame;
    const parts: SheetPart[] = [];
    if (shows.unseenBy !== undefined) parts.push(...paperUnseen(this.#places(frame), frame));
    const comparison = shows.changesSince === undefined ? null : this.#comparison(shows.changesSince);
    if (comparison) parts.push(...paperChanges(comparison.changes, comparison.axes, frame, drawing.unit));
    if (shows.marksOff) return parts;
    const shown = marks.filter(({ layer }) => !shows.hiddenMarkLayers.includes(layer));
    return [...parts, ...paperMarks(shown, frame, drawing.unit)];
  }

  #comparison(from: number): ComparisonDto | null {
    const file = this.sources.comparisons[from];
    if (file === undefined) return null;
    let known = this.#comparisons.get(from);
    if (!known) this.#comparisons.set(from, (known = JSON.parse(readFileSync(file, 'utf8')) as ComparisonDto));
    return known;
  }

  /** Middles of the objects that a frame shows. */
  *#places(frame: SheetFrameDto): Generator<readonly [number, number, boolean]> {
    const { drawing, folder, seen } = this.sources;
    const bits = Buffer.from(seen[frame.shows.unseenBy ?? ''] ?? '', 'base64');
    const hidden = new Set(numbersOfRanges(frame.shows.hiddenObjects, drawing.counts.objects));
    const { toPaper } = projectionOf(frame, drawing.unit);
    const isSolid = drawing.kind === 'solid';
    if (isSolid)
      this.#table ??= JSON.parse(
        gunzipSync(readFileSync(join(folder, 'tiles', 'solid.json.gz'))).toString(),
      ) as SolidTable;
    const count = isSolid ? this.#table!.names.length : this.boxes.length;
    for (let id = 0; id < count; id++) {
      if (hidden.has(id)) continue;
      const [x, y, z] = isSolid ? middleOf(this.#table!.boxes, id) : [...this.boxes.middle(id), 0];
      if (!Number.isFinite(x + y + z)) continue;
      const [xMm, yMm] = toPaper({ x, y, z });
      yield [xMm, yMm, (((bits[id >> 3] ?? 0) >> (id & 7)) & 1) === 1];
    }
  }
}

const middleOf = (boxes: readonly number[], id: number): readonly [number, number, number] =>
  [0, 1, 2].map((axis) => (boxes[6 * id + axis]! + boxes[6 * id + 3 + axis]!) / 2) as [number, number, number];
