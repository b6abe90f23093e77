import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fromTransverseMercator, transverseMercator } from './transverse-mercator.ts';

describe('the plane along a meridian', () => {
  it('leads back to the same place, to a hundredth of a micrometre', () => {
    const lon = fc.double({ min: -30, max: 30, noNaN: true });
    const lat = fc.double({ min: -88, max: 88, noNaN: true });
    fc.assert(
      fc.property(lon, lat, fc.integer({ min: -180, max: 180 }), (own, latDeg, meridian) => {
        const { x, y } = transverseMercator(meridian + own, latDeg, meridian);
        const back = fromTransverseMercator(x, y, meridian);
        // a degree is 111 km; the series to the sixth order is good to some nanometres within 3,900 km
        const metres =
          Math.hypot((back.lonDeg - meridian - own) * Math.cos((latDeg * Math.PI) / 180), back.latDeg - latDeg) *
          111_320;
        expect(metres).toBeLessThan(1e-7);
      }),
    );
  });
});
