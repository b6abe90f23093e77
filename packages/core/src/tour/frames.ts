/** Rates of frames of the moving pictures that are made of numbered ones, a second. */
export const frameRates = [12, 24, 25, 30, 50, 60] as const;
export type FrameRate = (typeof frameRates)[number];

/** The times of all frames of a tour: from its start, at its end at the latest, ms. One that loops ends a frame early. */
export function frameTimes(durationMs: number, framesPerS: number, loops: boolean): number[] {
  const spans = (durationMs * framesPerS) / 1000;
  const count = loops ? Math.max(Math.ceil(spans - 1e-9), 1) : Math.floor(spans + 1e-9) + 1;
  return Array.from({ length: count }, (_, k) => (k * 1000) / framesPerS);
}

/** The name of a frame's file: all are of one length, so that they sort. @param frame from 0 */
export const frameName = (frame: number, count: number): string =>
  `frame-${String(frame + 1).padStart(Math.max(String(count).length, 4), '0')}.png`;
