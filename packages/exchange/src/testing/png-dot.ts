import { bytesOfBase64 } from '../base64.ts';

/** A PNG of one px. */
export const PNG_DOT = bytesOfBase64(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
);
