import fc from 'fast-check';
import { orientationOf } from '@gull-pane/core/camera/orbit';
import { PNG_DOT } from './png-dot.ts';
import type { Circumstances, ExchangedDrawing, ExchangedView } from '../view.ts';

/** The pump hall: five objects on two layers. */
export const hall: ExchangedDrawing = {
  name: 'Kelpie Sound · pump hall',
  kind: 'solid',
  unit: 'mm',
  revision: 3,
  objects: 5,
  objectNames: ['Pump P-101', 'Pump P-102', 'Valve V-207', 'Valve V-207', 'Crane'],
  objectsOfLayer: (layer) => (layer === 'Lifting' ? [4] : []),
};

export function circumstances(): Circumstances {
  let last = 0;
  const newId = (): string => `00000000-0000-4000-8000-${String(++last).padStart(12, '0')}`;
  return { author: 'Drawing office', date: '2026-11-26T08:30:00Z', newId };
}

const place = (from: number, to: number): fc.Arbitrary<number> =>
  fc.double({ min: from, max: to, noNaN: true }).map((value) => value + 0); // zero has no sign

const text = fc
  .string({ unit: 'grapheme', minLength: 1, maxLength: 40 })
  // XML knows no control characters, and readers trim
  .map((raw) => raw.replaceAll(/[\p{C}\p{Z}]+/gu, ' ').trim())
  .filter((name) => name !== '' && name.length <= 100);

/** Views as cards hold them, far out where single precision is lost. */
export const anyView: fc.Arbitrary<ExchangedView> = fc
  .record({
    name: text,
    group: fc.oneof(fc.constant(''), text),
    x: place(4.1e8, 4.2e8),
    y: place(7.2e9, 7.21e9),
    z: place(-5e4, 5e4),
    unitsPerPx: place(1e-3, 1e4),
    bearingRad: place(-Math.PI, Math.PI),
    tiltRad: place(0, Math.PI / 2),
    fovRad: fc.oneof(fc.constant(undefined), place(0.8, 1)),
    widthPx: fc.integer({ min: 300, max: 4000 }),
    heightPx: fc.integer({ min: 200, max: 2000 }),
    hiddenObjects: fc.constantFrom('', '2', '0-1,3'),
    picked: fc.constantFrom(undefined, '1'),
    clip: fc.constantFrom('none', 'box', 'plane'),
    comment: fc.oneof(fc.constant(undefined), text),
    hasPicture: fc.boolean(),
  })
  .map(
    ({ name, group, x, y, z, unitsPerPx, bearingRad, tiltRad, fovRad, widthPx, heightPx, ...rest }): ExchangedView => {
      const q = orientationOf({ bearingRad, tiltRad });
      const { hiddenObjects, picked, clip, comment, hasPicture } = rest;
      const turn = { qx: 0, qy: 0, qz: Math.sin(0.2), qw: Math.cos(0.2) };
      return {
        name,
        group,
        widthPx,
        heightPx,
        camera: {
          x,
          y,
          z,
          unitsPerPx,
          qx: q.x,
          qy: q.y,
          qz: q.z,
          qw: q.w,
          ...(fovRad === undefined ? {} : { fovRad }),
        },
        shows: {
          hiddenLayers: [],
          hiddenObjects,
          revision: 3,
          ...(picked === undefined ? {} : { picked }),
          clips:
            clip === 'none'
              ? []
              : [
                  {
                    name: clip === 'box' ? 'Box' : 'Section 1',
                    kind: clip,
                    keeps: 'inside',
                    isOn: true,
                    ...turn,
                    centre: { x: x + 1, y: y - 2, z },
                    half: clip === 'box' ? { x: 1500, y: 900.5, z: 700 } : { x: 0, y: 0, z: 0 },
                  },
                ],
        },
        ...(comment === undefined
          ? {}
          : { comments: [{ author: 'Checker', date: '2026-11-25T10:00:00.000Z', text: comment }] }),
        ...(hasPicture ? { picture: PNG_DOT } : {}),
      };
    },
  );

export const anyViews: fc.Arbitrary<ExchangedView[]> = fc.array(anyView, { minLength: 1, maxLength: 5 });
