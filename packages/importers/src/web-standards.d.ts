/** What browsers and servers share and the language's own library doesn't declare. */
declare class TextDecoder {
  constructor(label?: string);
  decode(bytes: Uint8Array): string;
}
declare function atob(base64: string): string;
