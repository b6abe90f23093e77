import type { DrawingSink } from '@gull-pane/core/drawing/model';
import { transformPath, type PathBuilder } from '@gull-pane/core/drawing/path';
import { compose, meanScale, type Affine } from '@gull-pane/core/geometry/affine';
import type { Box2 } from '@gull-pane/core/geometry/clip';
import { emitClipped, intersectClips, uprightBox } from '../clip-path.ts';
import type { StyleTable } from '../style-table.ts';
import type { Warnings } from '../warnings.ts';
import type { ContentLayers } from './content-layers.ts';
import { affine, dashesOf, pathOf, rectangle, visible } from './operator-values.ts';
import { TextPen, joined, plainText, type Shown, type TextRun, type TextSettings } from './page-text.ts';
import { settingsAfter } from './text-settings.ts';

/** A page's operators as the parsing package lists them. */
export interface PageOperators {
  readonly fnArray: readonly number[];
  readonly argsArray: readonly unknown[];
}

/** What a page is drawn with. */
export interface PageTools {
  readonly sink: DrawingSink;
  readonly styles: StyleTable;
  readonly warnings: Warnings;
  readonly layers: ContentLayers;
  /** Names of operators by their number. */
  readonly operatorNames: ReadonlyMap<number, string>;
  /** Told of each element before it is drawn; throws where there are too many. */
  readonly count: (steps: number) => void;
  /** Whether a font of this name is a bold one. */
  readonly isBold: (font: string) => boolean;
}

interface State {
  matrix: Affine;
  fill: string | null;
  stroke: string | null;
  fillAlpha: number;
  strokeAlpha: number;
  /** Opacity of the groups around. */
  groupAlpha: number;
  width: number;
  dashes: readonly number[];
  clip: Box2 | null;
  text: TextSettings;
}

/** Coordinates beyond this are a slip of the writer. */
const LARGEST_COORDINATE = 1e12;
/** A line of width 0 is the thinnest that can be drawn; so it is kept, mm. */
const THINNEST_MM = 0.01;
/** The colour of what is painted by a pattern or a shading. */
const PATTERN_COLOUR = '#9a9a9a';

const painting: Readonly<Record<string, { fill?: 'nonzero' | 'evenodd'; stroke?: true }>> = {
  fill: { fill: 'nonzero' },
  eoFill: { fill: 'evenodd' },
  stroke: { stroke: true },
  closeStroke: { stroke: true },
  fillStroke: { fill: 'nonzero', stroke: true },
  eoFillStroke: { fill: 'evenodd', stroke: true },
  closeFillStroke: { fill: 'nonzero', stroke: true },
  closeEOFillStroke: { fill: 'evenodd', stroke: true },
  endPath: {},
  rawFillPath: { fill: 'nonzero' },
};

/** Draws one page: paths, texts and the layers of optional content. What can't be drawn is counted. */
export class PageDrawer {
  #state: State;
  readonly #kept: State[] = [];
  readonly #layers: number[] = [];
  readonly #pen = new TextPen();
  #pendingClip = false;
  #pendingText: { readonly run: TextRun; readonly style: number; readonly layer: number } | null = null;

  /** @param page number of the page from 1, for the report */
  constructor(
    private readonly tools: PageTools,
    private readonly page: number,
    toDrawing: Affine,
    sheet: Box2,
  ) {
    this.#state = {
      matrix: toDrawing,
      fill: '#000000',
      stroke: '#000000',
      fillAlpha: 1,
      strokeAlpha: 1,
      groupAlpha: 1,
      width: 1,
      dashes: [],
      clip: sheet,
      text: plainText,
    };
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
        state.fill = String(args[0]);
        break;
      case 'setStrokeRGBColor':
        state.stroke = String(args[0]);
        break;
      case 'setFillColorN':
        state.fill = this.#patternColour();
        break;
      case 'setStrokeColorN':
        state.stroke = this.#patternColour();
        break;
      case 'setFillTransparent':
        state.fill = null;
        break;
      case 'setStrokeTransparent':
        state.stroke = null;
        break;
      case 'clip':
      case 'eoClip':
        this.#pendingClip = true;
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
      case 'shadingFill':
        this.#leaveOut('a shading is left out');
        break;
      default:
        if (/^paint.*(Image|Mask)/.test(name)) this.#leaveOut('a raster picture is left out');
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

  #clipTo(path: PathBuilder): void {
    const box = uprightBox(transformPath(path, this.#state.matrix));
    if (box) this.#state.clip = intersectClips(this.#state.clip, box);
    else this.#leaveOut('a clip that is no upright rectangle is left out: what it hides is drawn');
  }

  #path(paint: string, buffer: unknown): void {
    const how = painting[paint];
    const path = pathOf(buffer);
    const clips = this.#pendingClip;
    this.#pendingClip = false;
    if (path) {
      if (how && path.ops.length > 1) this.#paint(path, how);
      if (clips) this.#clipTo(path);
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
    const fillColour = fill ? visible(state.fill, state.fillAlpha * state.groupAlpha) : null;
    const lineColour = stroke ? visible(state.stroke, state.strokeAlpha * state.groupAlpha) : null;
    const width = Math.max(state.width * enlargement, THINNEST_MM);
    const dashes = state.dashes.map((length) => length * enlargement);
    const line = lineColour ? styles.index('line', layer, lineColour, width, dashes) : -1;
    const area = fillColour ? styles.index('fill', layer, fillColour, 0, []) : -1;
    if (line < 0 && area < 0) return;
    this.#flushText(); // what comes later lies on top
    emitClipped(placed, state.clip, { line, fill: area }, (drawn, lineStyle, fillStyle) => {
      this.tools.count(drawn.ops.length);
      sink.path({ layer, lineStyle, fillStyle, fillRule: fill ?? 'nonzero', path: drawn });
    });
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
      if (clip && (x < clip.minX || x > clip.maxX || y < clip.minY || y > clip.maxY)) continue;
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
