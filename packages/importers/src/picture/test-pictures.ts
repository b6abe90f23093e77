/** Beginnings of pictures: as much as tells their size. */

/** A PNG of a size, without its px. */
export function pngHead(width: number, height: number): Uint8Array<ArrayBuffer> {
  const bytes = new Uint8Array(45);
  bytes.set([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
  const view = new DataView(bytes.buffer);
  view.setUint32(8, 13);
  bytes.set([0x49, 0x48, 0x44, 0x52], 12);
  view.setUint32(16, width);
  view.setUint32(20, height);
  bytes.set([8, 2, 0, 0, 0], 24);
  return bytes;
}

/** A TIFF of nothing but tags: numbers of each as doubles or, where they are whole, as shorts. */
export function tiffOf(tags: Readonly<Record<number, readonly number[]>>, isLittle = true): Uint8Array<ArrayBuffer> {
  const entries = Object.entries(tags).map(([tag, values]) => ({ tag: Number(tag), values }));
  const isShort = (values: readonly number[]): boolean =>
    values.every((value) => Number.isInteger(value) && value < 65_536 && value >= 0);
  const bytes = new Uint8Array(4096);
  const view = new DataView(bytes.buffer);
  bytes.set(isLittle ? [0x49, 0x49] : [0x4d, 0x4d]);
  view.setUint16(2, 42, isLittle);
  view.setUint32(4, 8, isLittle);
  view.setUint16(8, entries.length, isLittle);
  let room = 10 + 12 * entries.length;
  for (const [i, { tag, values }] of entries.entries()) {
    const at = 10 + 12 * i;
    const isSmall = isShort(values);
    view.setUint16(at, tag, isLittle);
    view.setUint16(at + 2, isSmall ? 3 : 12, isLittle);
    view.setUint32(at + 4, values.length, isLittle);
    const size = (isSmall ? 2 : 8) * values.length;
    const from = size <= 4 ? at + 8 : room;
    if (size > 4) view.setUint32(at + 8, from, isLittle);
    values.forEach((value, k) => {
      if (isSmall) view.setUint16(from + 2 * k, value, isLittle);
      else view.setFloat64(from + 8 * k, value, isLittle);
    });
    if (size > 4) room += size;
  }
  return bytes.slice(0, room);
}
