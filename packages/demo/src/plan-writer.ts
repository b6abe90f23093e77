/** Writes a plan as SVG, element by element. Places on the grid in millimetres, north up; SVG's y is −north. */

export interface LayerLook {
  readonly colour: string;
  readonly width: number;
  readonly dashes?: readonly number[];
  /** Fill of closed shapes; lines alone if absent. */
  readonly fill?: string;
}

export type Point = readonly [east: number, north: number];

const round = (value: number): string => String(Math.round(value * 1000) / 1000);
const escapeXml = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;');

export class PlanWriter {
  /** Lines and curves written so far. */
  segments = 0;
  #layer = '';

  /** @param origin the place on the grid that is written as 0, 0 */
  constructor(
    private readonly write: (text: string) => void,
    private readonly origin: Point = [0, 0],
  ) {}

  #x(east: number): string {
    return round(east - this.origin[0]);
  }

  #y(north: number): string {
    return round(this.origin[1] - north);
  }

  begin(east: number, north: number, width: number, height: number, title: string): void {
    this.write(
      `<?xml version="1.0" encoding="UTF-8"?>\n<svg xmlns="http://www.w3.org/2000/svg" width="${width}mm" height="${height}mm" ` +
        `viewBox="${this.#x(east)} ${this.#y(north + height)} ${width} ${height}" fill="none" font-family="sans-serif">\n<title>${escapeXml(title)}</title>\n`,
    );
  }

  end(): void {
    this.#closeLayer();
    this.write('</svg>\n');
  }

  layer(name: string, look: LayerLook): void {
    this.#closeLayer();
    this.#layer = name;
    const dashes = look.dashes ? ` stroke-dasharray="${look.dashes.join(' ')}"` : '';
    const fill = look.fill ? ` fill="${look.fill}"` : '';
    this.write(`<g id="${escapeXml(name)}" stroke="${look.colour}" stroke-width="${look.width}"${dashes}${fill}>\n`);
  }

  #closeLayer(): void {
    if (this.#layer !== '') this.write('</g>\n');
    this.#layer = '';
  }

  /** @param extra further attributes, such as a weight that differs from the layer's */
  line(points: readonly Point[], isClosed = false, extra = ''): void {
    this.#path(this.#lineData(points, isClosed), extra);
  }

  rectangle(east: number, north: number, width: number, height: number, extra = ''): void {
    this.segments += 4;
    this.write(
      `<rect x="${this.#x(east)}" y="${this.#y(north + height)}" width="${round(width)}" height="${round(height)}"${spaced(extra)}/>\n`,
    );
  }

  roundedRectangle(east: number, north: number, width: number, height: number, radius: number, extra = ''): void {
    const straight = (width > 2 * radius ? 2 : 0) + (height > 2 * radius ? 2 : 0);
    this.rectangle(east, north, width, height, `rx="${round(radius)}"${spaced(extra)}`);
    this.segments += straight; // a plain rectangle has been counted: its four sides stand for the four corners
  }

  circle([east, north]: Point, radius: number, extra = ''): void {
    this.segments++;
    this.write(`<circle cx="${this.#x(east)}" cy="${this.#y(north)}" r="${round(radius)}"${spaced(extra)}/>\n`);
  }

  /** An arc from one point to another; `bulge` to the left of the way if true. */
  arc(from: Point, to: Point, radius: number, isLeft: boolean, extra = ''): void {
    this.segments++;
    const ends = `${round(to[0] - from[0])} ${round(from[1] - to[1])}`;
    this.#path(
      `M${this.#x(from[0])} ${this.#y(from[1])}a${round(radius)} ${round(radius)} 0 0 ${isLeft ? 1 : 0} ${ends}`,
      extra,
    );
  }

  /** A smooth curve through the points (Catmull–Rom as cubic Béziers). */
  smooth(points: readonly Point[], isClosed = false, extra = ''): void {
    const n = points.length;
    const at = (i: number): Point => points[isClosed ? (i + n) % n : Math.min(Math.max(i, 0), n - 1)]!;
    let d = `M${this.#x(at(0)[0])} ${this.#y(at(0)[1])}C`;
    const spans = isClosed ? n : n - 1;
    for (let i = 0; i < spans; i++) {
      const [p0, p1, p2, p3] = [at(i - 1), at(i), at(i + 1), at(i + 2)];
      const pair = (x: number, y: number): string => `${this.#x(x)} ${this.#y(y)}`;
      d += ` ${pair(p1[0] + (p2[0] - p0[0]) / 6, p1[1] + (p2[1] - p0[1]) / 6)} `;
      d += `${pair(p2[0] - (p3[0] - p1[0]) / 6, p2[1] - (p3[1] - p1[1]) / 6)} ${pair(p2[0], p2[1])}`;
    }
    this.segments += spans;
    this.#path(isClosed ? `${d}z` : d, extra);
  }

  /** Several separate runs as one element. */
  lines(runs: readonly (readonly Point[])[], extra = ''): void {
    this.#path(runs.map((run) => this.#lineData(run, false)).join(''), extra);
  }

  text(
    [east, north]: Point,
    text: string,
    height: number,
    options: { angle?: number; anchor?: string; colour?: string } = {},
  ): void {
    const { angle = 0, anchor = 'start', colour } = options;
    const x = this.#x(east);
    const y = this.#y(north);
    const turn = angle === 0 ? '' : ` transform="rotate(${round(-angle)} ${x} ${y})"`;
    const paint = `fill="${colour ?? '#16324A'}" stroke="none"`;
    this.write(
      `<text x="${x}" y="${y}" font-size="${round(height)}" text-anchor="${anchor}" ${paint}${turn}>${escapeXml(text)}</text>\n`,
    );
  }

  #lineData(points: readonly Point[], isClosed: boolean): string {
    let [lastX, lastY] = points[0]!;
    let d = `M${this.#x(lastX)} ${this.#y(lastY)}l`;
    for (const [x, y] of points.slice(1)) {
      d += `${round(x - lastX)} ${round(lastY - y)} `;
      // what was written is rounded: go on from there, so that errors don't add up
      lastX += Math.round((x - lastX) * 1000) / 1000;
      lastY += Math.round((y - lastY) * 1000) / 1000;
    }
    this.segments += points.length - 1 + (isClosed ? 1 : 0);
    return isClosed ? `${d.trimEnd()}z` : d.trimEnd();
  }

  #path(d: string, extra: string): void {
    this.write(`<path d="${d}"${spaced(extra)}/>\n`);
  }
}

const spaced = (extra: string): string => (extra === '' ? '' : ` ${extra}`);
