/** Numbers that shaders look up, in memory: each graphics processor gets its own copy. Never changed once it was drawn with. */
export interface TexelData {
  readonly width: number;
  readonly height: number;
  /** Four whole numbers, or one byte, a texel. */
  readonly texels: Uint32Array<ArrayBuffer> | Uint8Array<ArrayBuffer>;
}
