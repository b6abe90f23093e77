/**
 * The bytes that stand in a data URI (RFC 2397).
 * @returns null if it is none, or can't be decoded
 */
export function bytesOfDataUri(uri: string): { readonly mediaType: string; readonly bytes: Uint8Array } | null {
  const [, mediaType = '', isBase64] = /^data:([^;,]*)(?:;(?!base64)[^;,]*)*(;base64)?,/i.exec(uri.slice(0, 200)) ?? [];
  const comma = uri.indexOf(',');
  if (comma < 0 || !/^data:/i.test(uri)) return null;
  try {
    const text = uri.slice(comma + 1);
    const letters = isBase64 ? atob(text.replaceAll(/\s+/g, '')) : decodeURIComponent(text);
    const bytes = new Uint8Array(letters.length);
    for (let i = 0; i < letters.length; i++) bytes[i] = letters.charCodeAt(i);
    return { mediaType: mediaType.toLowerCase(), bytes };
  } catch {
    return null;
  }
}
