const escapes: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
/** A text as XML 1.0 takes it. */
export const escaped = (text: string): string =>
  text.replaceAll(/[&<>"]/g, (letter) => escapes[letter]!).replaceAll(/[\0-\x08\x0b\x0c\x0e-\x1f]/g, '');
