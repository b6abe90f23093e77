/** Small PDF files put together from their objects (ISO 32000-2, 7.5), for tests and demo data. */

export interface WrittenPage {
  /** Content stream. */
  readonly content: string;
  /** Width and height, points. */
  readonly size: readonly [number, number];
  /** More entries of the page, for example `/Rotate 90`. */
  readonly entries?: string;
}

export interface WrittenPdf {
  readonly pages: readonly WrittenPage[];
  /** Names of optional content groups; a page's content has them as /G0, /G1 … */
  readonly groups?: readonly { readonly name: string; readonly isOff?: boolean }[];
  /** Form objects by name: their entries, content, and what they use beside fonts. */
  readonly forms?: Readonly<
    Record<string, { readonly entries: string; readonly content: string; readonly resources?: string }>
  >;
  /** More entries of the trailer. */
  readonly trailer?: string;
}

const latin = (text: string): Uint8Array<ArrayBuffer> => Uint8Array.from(text, (letter) => letter.charCodeAt(0) & 0xff);
/** A text as a PDF string in UTF-16. */
const utf16 = (text: string): string =>
  `<feff${Array.from({ length: text.length }, (_, i) => text.charCodeAt(i).toString(16).padStart(4, '0')).join('')}>`;

export function writePdf({ pages, groups = [], forms = {}, trailer = '' }: WrittenPdf): Uint8Array<ArrayBuffer> {
  const objects: string[] = [];
  const add = (body: string): number => objects.push(body);
  const stream = (entries: string, content: string): string =>
    `<< ${entries} /Length ${content.length} >>\nstream\n${content}\nendstream`;
  const catalog = add('');
  const tree = add('');
  const font = add('<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica /Encoding /WinAnsiEncoding >>');
  const boldFont = add('<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica-Bold /Encoding /WinAnsiEncoding >>');
  const groupRefs = groups.map(({ name }) => add(`<< /Type /OCG /Name ${utf16(name)} >>`));
  const properties = groupRefs.map((ref, index) => `/G${index} ${ref} 0 R`).join(' ');
  const fonts = `/Font << /F1 ${font} 0 R /F2 ${boldFont} 0 R >> /Properties << ${properties} >>`;
  const faint = '/ExtGState << /Faint << /ca 0.5 /CA 0.5 >> >>';
  const formRefs = Object.entries(forms).map(([name, { entries, content, resources: own = '' }]) => {
    const ref = add(
      stream(`/Type /XObject /Subtype /Form ${entries} /Resources << ${fonts} ${faint} ${own} >>`, content),
    );
    return `/${name} ${ref} 0 R`;
  });
  const resources = `/Resources << ${fonts} ${faint} /XObject << ${formRefs.join(' ')} >> >>`;
  const kids = pages.map(({ content, size: [width, height], entries = '' }) => {
    const body = add(stream('', content));
    const box = `/MediaBox [0 0 ${width} ${height}]`;
    return add(`<< /Type /Page /Parent ${tree} 0 R ${box} ${resources} ${entries} /Contents ${body} 0 R >>`);
  });
  objects[tree - 1] = `<< /Type /Pages /Kids [${kids.map((kid) => `${kid} 0 R`).join(' ')}] /Count ${kids.length} >>`;
  const refs = (list: readonly number[]): string => list.map((ref) => `${ref} 0 R`).join(' ');
  const off = groupRefs.filter((_, index) => groups[index]!.isOff);
  const content =
    groups.length > 0 ? `/OCProperties << /OCGs [${refs(groupRefs)}] /D << /OFF [${refs(off)}] >> >>` : '';
  objects[catalog - 1] = `<< /Type /Catalog /Pages ${tree} 0 R ${content} >>`;

  let file = '%PDF-1.7\n';
  const offsets = objects.map((body, index) => {
    const offset = file.length;
    file += `${index + 1} 0 obj\n${body}\nendobj\n`;
    return offset;
  });
  const begin = file.length;
  const rows = offsets.map((offset) => `${String(offset).padStart(10, '0')} 00000 n \n`).join('');
  file += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${rows}`;
  file += `trailer\n<< /Size ${objects.length + 1} /Root ${catalog} 0 R ${trailer} >>\nstartxref\n${begin}\n%%EOF\n`;
  return latin(file);
}
