import { expect, it } from 'vitest';
import { letterPlaces, type LetterPlace } from './axis-letters';

/** The letters of a view that looks from a bearing and a tilt. */
function lettersFrom(bearingDeg: number, tiltDeg: number): LetterPlace[] {
  const [bearing, tilt] = [(bearingDeg * Math.PI) / 180, (tiltDeg * Math.PI) / 180];
  const [s, c] = [Math.sin(bearing), Math.cos(bearing)];
  const rise = Math.sin(tilt);
  return letterPlaces({ x: c, y: -s, z: 0 }, { x: s * rise, y: c * rise, z: Math.cos(tilt) });
}

it('no letter runs into another, whichever way one looks', () => {
  for (let bearing = 0; bearing < 360; bearing += 5)
    for (let tilt = 0; tilt <= 60; tilt += 5) {
      const [x, y, z] = lettersFrom(bearing, tilt) as [LetterPlace, LetterPlace, LetterPlace];
      for (const [a, b] of [
        [x, y],
        [x, z],
        [y, z],
      ] as const) {
        // a letter of 10 px is 5 px wide and 7 px high
        const clear = Math.max(Math.abs(a.x - b.x) / 5, Math.abs(a.y - b.y) / 7);
        expect(clear, `${a.axis} and ${b.axis} from ${bearing}°, ${tilt}°`).toBeGreaterThanOrEqual(1);
      }
    }
});

it('letters that are clear of each other stand where their axes point', () => {
  const [x, y, z] = lettersFrom(45, 10) as [LetterPlace, LetterPlace, LetterPlace];
  expect(x.x).toBeCloseTo(16 * Math.SQRT1_2, 12);
  expect(y.x).toBeCloseTo(-16 * Math.SQRT1_2, 12);
  expect(z.x).toBeCloseTo(0, 12);
  expect(z.y).toBeCloseTo(-9 * Math.cos((10 * Math.PI) / 180), 12);
});
