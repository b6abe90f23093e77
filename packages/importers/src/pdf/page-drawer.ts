import type { FillRule } from '@gull-pane/core/drawing/model';
import { transformPath, type PathBuilder } from '@gull-pane/core/drawing/path';
import { compose, identityAffine, meanScale, type Affine } from '@gull-pane/core/geometry/affine';
import type { Box2 } from '@gull-pane/core/geometry/clip';
import { clipOf, emitClipped, intersectClips, isInClip, rectangle } from '../clip-path.ts';
import { affine, dashesOf, hexOf, pathOf, visible } from './operator-values.ts';
import { cutOut, paintsPicture, picturesOf } from './page-pictures.ts';
import {
  painting,
  stateAtBegin,
  type PageOperators,
  type PageState,
  type PageTools,
  type PlacedShading,
} from './page-state.ts';
import { TextPen, joined, type Shown, type TextRun } from './page-text.ts';
import { pictureOfShading, shadingOf } from './shading.ts';
import { settingsAfter } from './text-settings.ts';

/** Coordinates beyond this are a slip of the writer. */
const LARGEST_COORDINATE = 1e12;
/** A line of width 0 is the thinnest that can be drawn; so it is kept, mm. */
const THINNEST_MM = 0.01;
/** The colour of what is painted by a pattern or a shading. */
const PATTERN_COLOUR = '#9a9a9a';

/** Shadings of a page that become pictures. */
const MOST_SHADINGS = 2000;
/** The layer of annotations. */
const ANNOTATIONS = 'Annotations';

/** Arguments of the operator that begins one. */
type Annotation = readonly [
  id: string,
  rect: readonly number[],
  transform: readonly number[],
  matrix: readonly number[],
];

/** Draws one page: paths, texts and the layers of optional content. What can't be drawn is counted. */
export class PageDrawer {
  #state: PageState;
  readonly #begin: PageState;
  readonly #kept: PageState[] = [];
  readonly #layers: number[] = [];
  readonly #pen = new TextPen();
  #pendingClip: FillRule | null = null;
  #shadings = 0;
  #pendingText: { readonly run: TextRun; readonly style: number; readonly layer: number } | null = null;

  /** @param page number of the page from 1, for the report */
  constructor(
    private readonly tools: PageTools,
    private readonly page: number,
    toDrawing: Affine,
    sheet: Box2,
  ) {
    this.#state = stateAtBegin(toDrawing, sheet);
    this.#begin = { ...this.#state };
  }

  draw({ fnArray, argsArray }: PageOperators): void {
    for (let i = 0; i < fnArray.length; i++) {
      const name = this.tools.operatorNames.get(fnArray[i]!) ?? '';
      const args = (argsArray[i] ?? []) as readonly unknown[];
      this.#operator(name, args);
    }
    this.#flushText();
  }

  get #layer(): number {
    return this.#layers.at(-1) ?? this.tools.layers.plain;
  }

  #operator(name: string, args: readonly unknown[]): void {
    const state = this.#state;
    const number = (index: number): number => Number(args[index] ?? 0);
    switch (name) {
      case 'save':
        this.#save();
        break;
      case 'restore':
      case 'paintFormXObjectEnd':
      case 'endGroup':
        this.#restore();
        break;
      case 'transform':
        state.matrix = compose(state.matrix, affine(args as readonly number[]));
        break;
      case 'setLineWidth':
        state.width = number(0);
        break;
      case 'setDash':
        state.dashes = dashesOf(args[0]);
        break;
      case 'setGState':
        for (const [key, value] of (args[0] ?? []) as readonly [string, unknown][]) this.#parameter(key, value);
        break;
      case 'setFillRGBColor':
        Object.assign(state, { fill: String(args[0]), shading: null });
        break;
      case 'setStrokeRGBColor':
        state.stroke = String(args[0]);
        break;
      case 'setFillColorN':
        this.#pattern(args);
        break;
      case 'setStrokeColorN':
        state.stroke = this.#patternColour();
        break;
      case 'setFillTransparent':
        Object.assign(state, { fill: null, shading: null });
        break;
      case 'setStrokeTransparent':
        state.stroke = null;
        break;
      case 'clip':
      case 'eoClip':
        this.#pendingClip = name === 'clip' ? 'nonzero' : 'evenodd';
        break;
      case 'constructPath':
        this.#path(this.tools.operatorNames.get(number(0)) ?? '', (args[1] as readonly unknown[])[0]);
        break;
      case 'beginGroup':
        this.#group(args[0]);
        break;
      case 'paintFormXObjectBegin':
        this.#save();
        if (args[0]) this.#state.matrix = compose(this.#state.matrix, affine(args[0] as readonly number[]));
        if (args[1]) this.#clipTo(rectangle(args[1] as readonly number[]));
        break;
      case 'beginMarkedContent':
        this.#layers.push(this.#layer);
        break;
      case 'beginMarkedContentProps':
        this.#layers.push((args[0] === 'OC' ? this.tools.layers.of(args[1] ?? {}) : null) ?? this.#layer);
        break;
      case 'endMarkedContent':
        this.#layers.pop();
        break;
      case 'beginAnnotation':
        this.#annotation(args as Annotation);
        break;
      case 'endAnnotation':
        this.#layers.pop();
        this.#restore();
        break;
      case 'shadingFill':
        this.#shadingFill(String(args[0]));
        break;
      default:
        if (paintsPicture(name)) this.#pictures(name, args);
        else if (name === 'paintSolidColorImageMask') this.#paint(rectangle([0, 0, 1, 1]), { fill: 'nonzero' });
        else if (/^paint.*(Image|Mask)/.test(name)) this.#leaveOut('a raster picture is left out');
        else this.#textOperator(name, args, number);
    }
  }

  #textOperator(name: string, args: readonly unknown[], number: (index: number) => number): void {
    const state = this.#state;
    state.text = settingsAfter(state.text, name, args, this.tools.isBold);
    switch (name) {
      case 'beginText':
        this.#pen.begin();
        break;
      case 'moveText':
      case 'setLeadingMoveText':
        this.#pen.nextLine(number(0), number(1));
        break;
      case 'setTextMatrix':
        this.#pen.begin(affine(args[0] as readonly number[]));
        break;
      case 'nextLine':
        this.#pen.nextLine(0, -state.text.leading);
        break;
      case 'showText':
        this.#show((args[0] ?? []) as readonly Shown[]);
        break;
    }
  }

  #parameter(key: string, value: unknown): void {
    const state = this.#state;
    if (key === 'LW') state.width = Number(value);
    else if (key === 'D') state.dashes = dashesOf((value as readonly unknown[])[0]);
    else if (key === 'ca') state.fillAlpha = Number(value);
    else if (key === 'CA') state.strokeAlpha = Number(value);
    else if (key === 'Font') {
      const [font, size] = value as readonly [unknown, number];
      state.text = { ...state.text, size, isBold: this.tools.isBold(String(font)) };
    } else if (key === 'SMask' && value) this.#leaveOut('a mask is left out');
  }

  /** A pattern that areas are painted with: of shadings what they are, of others a grey. */
  #pattern([kind, name, matrix]: readonly unknown[]): void {
    const shading = kind === 'Shading' ? shadingOf(this.tools.objectOf(String(name))) : null;
    const own = matrix ? affine(matrix as readonly number[]) : identityAffine;
    // a pattern lies on the page, whatever was turned since (8.7.3.1)
    this.#state.shading = shading && { shading, toDrawing: compose(this.#begin.matrix, own) };
    this.#state.fill = shading ? hexOf(shading.mean) : this.#patternColour();
  }

  #shadingFill(name: string): void {
    const { matrix, clip } = this.#state;
    const shading = shadingOf(this.tools.objectOf(name));
    if (!shading || !clip) this.#leaveOut('a shading by a mesh or a function is left out');
    else this.#shade({ shading, toDrawing: matrix }, clip.box, (x, y) => isInClip(clip, x, y));
  }

  /** @returns whether it was painted: of very many only the first are */
  #shade({ shading, toDrawing }: PlacedShading, region: Box2, isPainted: (x: number, y: number) => boolean): boolean {
    const { fillAlpha, groupAlpha } = this.#state;
    if (++this.#shadings > MOST_SHADINGS) {
      this.#leaveOut('of very many shadings the rest has its mean colour');
      return false;
    }
    const picture = pictureOfShading(shading, toDrawing, region, isPainted);
    const opacity = Math.min(fillAlpha * groupAlpha, 1);
    if (!picture || !(opacity > 0)) return true;
    this.#flushText();
    this.tools.count(1);
    this.tools.sink.picture({ layer: this.#layer, clip: null, opacity, ...picture });
    return true;
  }

  #patternColour(): string {
    this.#leaveOut('a pattern is drawn as an even grey');
    return PATTERN_COLOUR;
  }

  #leaveOut(message: string): void {
    this.tools.warnings.add('not-supported', message, this.page);
  }

  #save(): void {
    this.#kept.push({ ...this.#state });
  }

  #restore(): void {
    const last = this.#kept.pop();
    if (last) this.#state = last;
  }

  /** A group is painted as one: its opacity is that of all in it. */
  #group(options: unknown): void {
    this.#save();
    const { matrix, bbox } = (options ?? {}) as { matrix?: readonly number[]; bbox?: readonly number[] };
    const state = this.#state;
    Object.assign(state, { groupAlpha: state.groupAlpha * state.fillAlpha, fillAlpha: 1, strokeAlpha: 1 });
    const before = state.matrix;
    if (matrix) state.matrix = compose(before, affine(matrix));
    if (bbox) this.#clipTo(rectangle(bbox));
    state.matrix = before; // the form that follows has it, too
  }

  /** An annotation begins with the page's initial graphics state and is clipped to its rectangle (12.5.5). */
  #annotation([, rect, transform, matrix]: Annotation): void {
    this.#save();
    this.#state = { ...this.#begin };
    this.#layers.push(this.tools.layers.named(ANNOTATIONS));
    this.#clipTo(rectangle(rect));
    const within = compose(this.#state.matrix, affine(transform));
    this.#state.matrix = compose(within, affine(matrix));
  }

  #clipTo(path: PathBuilder, rule: FillRule = 'nonzero'): void {
    const { clip, isWhole } = clipOf(transformPath(path, this.#state.matrix), rule);
    this.#state.clip = intersectClips(this.#state.clip, clip);
    if (!isWhole) this.#leaveOut('an intricate clip cuts as its box: what else it hides is drawn');
  }

  #path(paint: string, buffer: unknown): void {
    const how = painting[paint];
    const path = pathOf(buffer);
    const clips = this.#pendingClip;
    this.#pendingClip = null;
    if (path) {
      if (how && path.ops.length > 1) this.#paint(path, how);
      if (clips) this.#clipTo(path, clips);
    }
  }

  #paint(path: PathBuilder, { fill, stroke }: { fill?: 'nonzero' | 'evenodd'; stroke?: true }): void {
    const { styles, sink } = this.tools;
    const state = this.#state;
    const placed = transformPath(path, state.matrix);
    for (let i = 0; i < placed.coords.length; i++) {
      if (Math.abs(placed.coords[i]!) < LARGEST_COORDINATE) continue;
      this.tools.warnings.add('bad-geometry', 'a path whose coordinates are no usable numbers is left out', this.page);
      return;
    }
    const enlargement = meanScale(state.matrix);
    const layer = this.#layer;
    let fillColour = fill ? visible(state.fill, state.fillAlpha * state.groupAlpha) : null;
    const lineColour = stroke ? visible(state.stroke, state.strokeAlpha * state.groupAlpha) : null;
    const width = Math.max(state.width * enlargement, THINNEST_MM);
    const dashes = state.dashes.map((length) => length * enlargement);
    if (fillColour && state.shading && state.clip) {
      const { clip: area, isWhole } = clipOf(placed, fill!);
      const seen = intersectClips(state.clip, area);
      if (isWhole && this.#shade(state.shading, seen.box, (x, y) => isInClip(seen, x, y))) fillColour = null;
    }
    const line = lineColour ? styles.index('line', layer, lineColour, width, dashes) : -1;
    const area = fillColour ? styles.index('fill', layer, fillColour, 0, []) : -1;
    if (line < 0 && area < 0) return;
    this.#flushText(); // what comes later lies on top
    const styled = { line, fill: area, rule: fill ?? 'nonzero' } as const;
    const isWhole = emitClipped(placed, state.clip, styled, (drawn) => {
      this.tools.count(drawn.path.ops.length);
      sink.path({ layer, lineStyle: drawn.line, fillStyle: drawn.fill, fillRule: drawn.rule, path: drawn.path });
    });
    if (!isWhole) this.#leaveOut('an intricate area is cut by the box of its clip: what else that hides is drawn');
  }

  /** A picture fills the unit square, its first row at the top (ISO 32000-2, 8.9.5). */
  #pictures(name: string, args: readonly unknown[]): void {
    const { matrix, clip, fill, fillAlpha, groupAlpha } = this.#state;
    const opacity = Math.min(fillAlpha * groupAlpha, 1);
    if (!(opacity > 0)) return;
    for (const picture of picturesOf(name, args, this.tools.objectOf, visible(fill, 1))) {
      if (!picture) {
        this.#leaveOut('a raster picture that can’t be read is left out');
        continue;
      }
      const place = compose(compose(matrix, picture.at), { ...identityAffine, d: -1, f: 1 });
      const { a, b, c, d, e, f } = place;
      if (![a, b, c, d, e, f].every((value) => Math.abs(value) < LARGEST_COORDINATE)) continue;
      this.#flushText();
      this.tools.count(1);
      const isCut = clip !== null && clip.shapes.length > 0;
      const source = isCut ? cutOut(picture.source, place, (x, y) => isInClip(clip, x, y)) : picture.source;
      this.tools.sink.picture({ layer: this.#layer, place, clip: clip?.box ?? null, opacity, source });
    }
  }

  #show(glyphs: readonly Shown[]): void {
    const { matrix, text, fill, fillAlpha, groupAlpha, clip } = this.#state;
    const runs = this.#pen.show(glyphs, text, matrix);
    const colour = visible(fill, fillAlpha * groupAlpha);
    if (!text.isVisible || !colour) return;
    const layer = this.#layer;
    const style = this.tools.styles.index('text', layer, colour, 0, []);
    for (const run of runs) {
      const { x, y } = run.mark;
      if (clip && !isInClip(clip, x, y)) continue;
      const last = this.#pendingText;
      const both = last?.style === style && last.layer === layer ? joined(last.run, run) : null;
      if (!both) this.#flushText();
      this.#pendingText = { run: both ?? run, style, layer };
    }
  }

  #flushText(): void {
    const last = this.#pendingText;
    this.#pendingText = null;
    if (!last) return;
    this.tools.count(1);
    this.tools.sink.text({ layer: last.layer, style: last.style, mark: last.run.mark });
  }
}
