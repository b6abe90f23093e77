import { base64OfBytes } from '@gull-pane/exchange/base64';

/** Raster pictures by the ending of their names. */
const mediaTypes: Readonly<Record<string, string>> = {
  png: 'image/png',
  jpg: 'image/jpeg',
  jpeg: 'image/jpeg',
  webp: 'image/webp',
  gif: 'image/gif',
  tif: 'image/tiff',
  tiff: 'image/tiff',
};
const MM_PER_METRE = 1000;

/** @returns null if the name isn't that of a raster picture */
export const mediaTypeOf = (name: string): string | null =>
  mediaTypes[/\.([a-z]+)$/i.exec(name)?.[1]?.toLowerCase() ?? ''] ?? null;

export async function dataUriOf(file: File): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  return `data:${mediaTypeOf(file.name) ?? 'application/octet-stream'};base64,${base64OfBytes(bytes)}`;
}

/** The name of a file without folders, as an address refers to it. */
export function nameIn(address: string): string {
  const last = address.replace(/^.*\//, '');
  try {
    return decodeURIComponent(last);
  } catch {
    return last;
  }
}

/**
 * A plan that refers to pictures carries those that are among the files.
 * @param used grows by them
 */
export async function withPictures(svg: File, files: readonly File[], used: Set<File>): Promise<File> {
  const pictures = files.filter(({ name }) => mediaTypeOf(name) !== null);
  if (pictures.length === 0) return svg;
  const text = await svg.text();
  const found = new Map<string, string>();
  for (const [, , address = ''] of text.matchAll(/\bhref\s*=\s*(["'])([^"']*)\1/g)) {
    const picture = pictures.find(({ name }) => name === nameIn(address));
    if (!picture || found.has(address)) continue;
    used.add(picture);
    found.set(address, await dataUriOf(picture));
  }
  if (found.size === 0) return svg;
  const whole = text.replaceAll(
    /(\bhref\s*=\s*)(["'])([^"']*)\2/g,
    (all, before: string, mark: string, address: string) =>
      found.has(address) ? `${before}${mark}${found.get(address)}${mark}` : all,
  );
  return new File([whole], svg.name);
}

/**
 * The file that says where a picture lies: of the same name, ending in .wld or in letters of the picture's ending and a w.
 */
export const worldFileOf = (picture: File, files: readonly File[]): File | undefined => {
  const stem = (name: string): string => name.replace(/\.[^.]*$/, '').toLowerCase();
  return files.find(
    ({ name }) => /\.(wld|[a-z]{2,4}w)$/i.test(name) && stem(name) === stem(picture.name) && name !== picture.name,
  );
};

/**
 * A picture with its world file as a plan in millimetres. The six lines are the map that takes the middles of px, counted
 * to the right and down, to coordinates in metres: x by column, y by column, x by row, y by row, then x and y of the first.
 * @returns null if the world file isn't one
 */
export async function placedPicture(picture: File, world: File): Promise<File | null> {
  const numbers = (await world.text()).trim().split(/\s+/).map(Number);
  if (numbers.length !== 6 || !numbers.every(Number.isFinite)) return null;
  const [a, d, b, e, c, f] = numbers as [number, number, number, number, number, number];
  // y is up on the map and down in the plan
  const matrix = [a, -d, b, -e, c - a / 2 - b / 2, -(f - d / 2 - e / 2)].map((metres) => metres * MM_PER_METRE);
  const plan =
    '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 1 1" width="1mm" height="1mm"><g id="Picture">' +
    `<image transform="matrix(${matrix.join(' ')})" href="${await dataUriOf(picture)}"/></g></svg>`;
  return new File([plan], picture.name.replace(/\.[^.]*$/, '.svg'));
}
