/** Where a PDF says what it is: other bytes may come before it (ISO 32000-2, annex I). */
export const PDF_HEAD_BYTES = 1024;

const MARK = [0x25, 0x50, 0x44, 0x46, 0x2d]; // %PDF-

/** Whether a file that begins with these bytes is a PDF. */
export function isPdfHead(head: Uint8Array): boolean {
  const last = Math.min(head.length, PDF_HEAD_BYTES) - MARK.length;
  for (let at = 0; at <= last; at++) if (MARK.every((byte, index) => head[at + index] === byte)) return true;
  return false;
}
