import { cameraAxes, worldToScreen, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import { colourFromHex, colourToHex, inkOnGround } from '@gull-pane/core/drawing/colour';
import type { Colour } from '@gull-pane/core/drawing/model';
import { length3, sub3, type Vec2, type Vec3 } from '@gull-pane/core/geometry/vec';
import type { Mark } from '@gull-pane/core/marks/mark';
import { placesOf, strokesOf } from '@gull-pane/core/marks/strokes';
import type { FigureStyle } from '@gull-pane/core/measure/figures';
import { measureKindOf } from '@gull-pane/core/measure/measure-kinds';
import { hatchLines } from '@gull-pane/core/planar/rings';
import { fromPlane, normalOf } from '@gull-pane/core/plane/work-plane';
import { DRAWING_FONT } from './flat/text-painter';
import { figureText } from '../basics/figures';

/** Curves keep to their course within so many px. */
const CHORD_PX = 0.25;
const FONT = `13px ${DRAWING_FONT}`;
/** Between the lines of a hatch, px, when it is drawn; lines stand in the drawing and grow with it in steps. */
const HATCH_PX = 9;
const CROSS_PX = 6;

/** Draws marks on a canvas, CSS px. */
export class MarkBrush {
  constructor(
    private readonly context: CanvasRenderingContext2D,
    private readonly camera: Camera,
    private readonly viewport: Viewport,
    private readonly figures: FigureStyle,
    private readonly page: { readonly ground: Colour; readonly accent: string; readonly mmPerPx: number },
  ) {}

  mark(mark: Mark, isChosen: boolean): void {
    const { context, camera } = this;
    const { ground, mmPerPx } = this.page;
    const widthPx = Math.max(mark.widthMm / mmPerPx, 0.75);
    const ink = colourToHex(inkOnGround(colourFromHex(mark.colour), ground));
    context.lineJoin = 'round';
    context.lineCap = 'round';
    const strokes = strokesOf(mark);
    const runs = strokes.flatMap((stroke) => placesOf(stroke, CHORD_PX * camera.unitsPerPx));
    if (mark.kind === 'hatch') this.#hatch(mark, runs, ink);
    const draw = (): void => {
      for (const run of runs) this.#line(run);
      if (mark.kind === 'point') this.#cross(mark.points[0]!);
      if (mark.kind === 'sphere' && mark.points[1]) this.#ball(mark.points[0]!, mark.points[1]);
    };
    if (isChosen) {
      context.setLineDash([]);
      context.strokeStyle = this.page.accent;
      context.globalAlpha = 0.35;
      context.lineWidth = widthPx + 5;
      draw();
      context.globalAlpha = 1;
    }
    context.strokeStyle = ink;
    context.lineWidth = widthPx;
    context.setLineDash(
      mark.line === 'solid'
        ? []
        : mark.line === 'dashed'
          ? [5 * widthPx + 3, 3 * widthPx + 2]
          : [0.1, 2.5 * widthPx + 1],
    );
    draw();
    context.setLineDash([]);
    if (mark.kind === 'plane') this.#plane(mark, ink);
    this.#words(mark, ink);
  }

  openArea(
    gaps: readonly {
      readonly from: readonly [number, number];
      readonly to: readonly [number, number];
      readonly size: number;
    }[],
    colour: string,
  ): void {
    const { context } = this;
    context.strokeStyle = context.fillStyle = colour;
    context.lineWidth = 2;
    context.textAlign = 'left';
    context.font = `600 12px ${DRAWING_FONT}`;
    for (const { from, to, size } of gaps) {
      const [a, b] = [from, to].map(([x, y]) => this.#seen({ x, y, z: 0 })) as [Vec2, Vec2];
      context.beginPath();
      context.arc((a.x + b.x) / 2, (a.y + b.y) / 2, Math.hypot(a.x - b.x, a.y - b.y) / 2 + 7, 0, 2 * Math.PI);
      context.moveTo(a.x, a.y);
      context.lineTo(b.x, b.y);
      context.stroke();
      const told = figureText({ name: '', quantity: 'length', value: Number(size.toPrecision(4)) }, this.figures);
      const [x, y] = [(a.x + b.x) / 2, (a.y + b.y) / 2];
      const away = Math.hypot(a.x - b.x, a.y - b.y) / 2 + 11;
      context.fillText(told, x + away, y + 4);
    }
  }

  #seen(place: Vec3): Vec2 {
    return worldToScreen(this.camera, this.viewport, place);
  }

  #trace(run: readonly Vec3[]): void {
    run.forEach((place, k) => {
      const { x, y } = this.#seen(place);
      if (k === 0) this.context.moveTo(x, y);
      else this.context.lineTo(x, y);
    });
  }

  #line(run: readonly Vec3[]): void {
    this.context.beginPath();
    this.#trace(run);
    this.context.stroke();
  }

  #cross(place: Vec3): void {
    const { x, y } = this.#seen(place);
    this.context.beginPath();
    this.context.moveTo(x - CROSS_PX, y);
    this.context.lineTo(x + CROSS_PX, y);
    this.context.moveTo(x, y - CROSS_PX);
    this.context.lineTo(x, y + CROSS_PX);
    this.context.stroke();
  }

  /** The outline of a sphere as it is seen: a circle, near enough in perspective. */
  #ball(centre: Vec3, rim: Vec3): void {
    const radius = length3(sub3(rim, centre));
    const { right } = cameraAxes(this.camera);
    const at = this.#seen(centre);
    const side = this.#seen({
      x: centre.x + right.x * radius,
      y: centre.y + right.y * radius,
      z: centre.z + right.z * radius,
    });
    this.context.beginPath();
    this.context.arc(at.x, at.y, Math.hypot(side.x - at.x, side.y - at.y), 0, 2 * Math.PI);
    this.context.stroke();
  }

  #hatch(mark: Mark, runs: readonly (readonly Vec3[])[], ink: string): void {
    const { context, camera } = this;
    context.beginPath();
    for (const run of runs) {
      this.#trace(run);
      context.closePath();
    }
    context.fillStyle = ink;
    context.globalAlpha = 0.1;
    context.fill('evenodd');
    context.globalAlpha = 0.7;
    // spacings are powers of two of a unit, so that lines stay where they are while one zooms a little
    const spacing = 2 ** Math.round(Math.log2(HATCH_PX * camera.unitsPerPx));
    const lines = hatchLines(mark.rings ?? [], Math.PI / 4, spacing);
    const plane = { origin: mark.points[0]!, x: mark.x, y: mark.y };
    context.strokeStyle = ink;
    context.lineWidth = 0.75;
    context.setLineDash([]);
    context.beginPath();
    for (let i = 0; i < Math.min(lines.length, MOST_HATCH_NUMBERS); i += 4) {
      const [a, b] = [0, 2].map((k) => fromPlane(plane, { x: lines[i + k]!, y: lines[i + k + 1]!, z: 0 })) as [
        Vec3,
        Vec3,
      ];
      this.#trace([a, b]);
    }
    context.stroke();
    context.globalAlpha = 1;
  }

  /** A kept plane: its axes at its origin. */
  #plane(mark: Mark, ink: string): void {
    const { context, camera } = this;
    const [origin] = mark.points;
    const arm = 28 * camera.unitsPerPx;
    const axes: readonly (readonly [string, Vec3])[] = [
      ['X', mark.x],
      ['Y', mark.y],
      ['Z', normalOf({ origin: origin!, x: mark.x, y: mark.y })],
    ];
    context.font = FONT;
    context.fillStyle = ink;
    for (const [letter, { x, y, z }] of axes) {
      const tip = { x: origin!.x + x * arm, y: origin!.y + y * arm, z: origin!.z + z * arm };
      this.#line([origin!, tip]);
      const at = this.#seen(tip);
      context.fillText(letter, at.x + 3, at.y - 3);
    }
  }

  #words(mark: Mark, ink: string): void {
    const words = wordsOf(mark, this.figures);
    if (words.length === 0) return;
    const { context } = this;
    const at = this.#seen(mark.points.at(mark.kind === 'note' ? 1 : -1)!);
    context.font = FONT;
    const width = Math.max(...words.map((line) => context.measureText(line).width));
    const [left, top] = [at.x + 5, at.y - 16 * words.length - 3];
    context.globalAlpha = 0.88;
    context.fillStyle = colourToHex(this.page.ground);
    context.fillRect(left - 3, top, width + 6, 16 * words.length + 3);
    context.globalAlpha = 1;
    context.fillStyle = ink;
    words.forEach((line, k) => context.fillText(line, left, top + 13 + 16 * k));
  }
}

/** Of a hatch no more than this is drawn, numbers. */
const MOST_HATCH_NUMBERS = 40_000;

function wordsOf({ kind, text, measure, points }: Mark, style: FigureStyle): readonly string[] {
  if (kind === 'measure') {
    const [first] = measureKindOf(measure ?? '')?.figures(points) ?? [];
    return first ? [figureText(first, style)] : [];
  }
  return text === '' ? [] : text.split('\n');
}
