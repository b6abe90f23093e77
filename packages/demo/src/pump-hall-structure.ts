/** What the pump hall is built of: slab, columns, roof, walkways, crane. */
import { gratingClip, gratingPanel, railBay, type Paints } from './model-parts.ts';
import type { ModelWriter } from './model-writer.ts';
import { EAVES, depth, pumps, width } from './pump-hall-plan.ts';
import { box, cylinder, laidAlongX, laidAlongY, merge, moved } from './solid-shapes.ts';

export function structure(model: ModelWriter, paints: Paints): void {
  const floor = model.group('Foundations');
  model.object('Floor slab', floor, 'slab', () => [[box(width, depth, 0.4), paints.concrete]], {
    at: [width / 2, depth / 2, -0.4],
  });
  for (let i = 0; i < 58; i++)
    for (const north of [1.6, 3.6])
      model.object(
        `Trench edge ${i + 1} at ${north} m`,
        floor,
        'trench edge',
        () => [[box(0.99, 0.06, 0.05), paints.steel]],
        {
          at: [2.5 + i, north, 0],
        },
      );
  for (const { tag, east, north } of pumps)
    model.object(`Plinth of ${tag}`, floor, 'plinth', () => [[box(3.2, 10, 0.5), paints.concrete]], {
      at: [east, north, 0],
    });
  const frame = model.group('Structure');
  const bays = 11;
  for (let i = 0; i <= bays; i++)
    for (const [side, north] of [
      ['S', 0.4],
      ['N', depth - 0.4],
    ] as const) {
      const at = (i * (width - 0.8)) / bays + 0.4;
      model.object(`Column ${side}${i + 1}`, frame, 'column', () => [[iBeam(0.4, EAVES), paints.steel]], {
        at: [at, north, 0],
      });
      model.object(`Base plate ${side}${i + 1}`, frame, 'base plate', () => [[box(0.7, 0.7, 0.04), paints.steel]], {
        at: [at, north, 0],
      });
    }
  for (let i = 0; i <= bays; i++) {
    const at = (i * (width - 0.8)) / bays + 0.4;
    model.object(`Roof beam ${i + 1}`, frame, 'roof beam', () => [[laidAlongY(iBeam(0.5, depth)), paints.steel]], {
      at: [at, 0, EAVES],
    });
  }
  for (const north of [0.4, 8.5, 17, 25.5, depth - 0.4])
    model.object(`Purlin at ${north} m`, frame, 'purlin', () => [[laidAlongX(iBeam(0.2, width)), paints.steel]], {
      at: [0, north, EAVES + 0.35],
    });
  const walls = model.group('Walls');
  for (const [name, north] of [
    ['South wall', 0.1],
    ['North wall', depth - 0.1],
  ] as const)
    model.object(name, walls, 'long wall', () => [[box(width, 0.2, 1.2), paints.concrete]], {
      at: [width / 2, north, 0],
    });
  for (const [name, east] of [
    ['West wall', 0.1],
    ['East wall', width - 0.1],
  ] as const)
    model.object(name, walls, 'short wall', () => [[box(0.2, depth, 1.2), paints.concrete]], {
      at: [east, depth / 2, 0],
    });
  for (let i = 0; i < 30; i++)
    model.object(`Window ${i + 1}`, walls, 'window', () => [[box(1.7, 0.04, 2.4), paints.glass]], {
      at: [1.5 + i * 2, depth - 0.1, 1.3],
    });
}

const iBeam = (size: number, length: number) =>
  merge(
    moved(box(size, size * 0.08, length), [0, -size * 0.46, 0]),
    moved(box(size, size * 0.08, length), [0, size * 0.46, 0]),
    box(size * 0.06, size, length),
  );

/** The gallery along the north side with its stairs and rails, and gratings over the drain trench. */
export function walkways(model: ModelWriter, paints: Paints): void {
  const gratings = model.group('Gratings');
  const rails = model.group('Stairs and rails');
  for (let i = 0; i < 58; i++)
    for (let k = 0; k < 4; k++)
      model.object(
        `Gallery grating ${i + 1}.${k + 1}`,
        gratings,
        'grating',
        () => [[gratingPanel(), paints.galvanised]],
        {
          at: [2.5 + i, 25 + k, 3.2],
        },
      );
  for (let i = 0; i < 58; i++)
    for (let k = 0; k < 4; k++)
      for (const [side, shift] of [
        ['W', -0.45],
        ['E', 0.45],
      ] as const)
        model.object(
          `Clip ${side} of grating ${i + 1}.${k + 1}`,
          gratings,
          'clip',
          () => [[gratingClip(), paints.steel]],
          {
            at: [2.5 + i + shift, 25.4 + k, 3.2],
          },
        );
  for (let i = 0; i < 58; i++)
    model.object(`Trench grating ${i + 1}`, gratings, 'grating', () => [[gratingPanel(), paints.galvanised]], {
      at: [2.5 + i, 2.6, 0.02],
    });
  for (let i = 0; i < 58; i++) {
    model.object(`Rail bay ${i + 1}`, rails, 'rail', () => [[railBay(), paints.safety]], { at: [2 + i, 24.5, 3.2] });
    if (i % 4 === 0)
      model.object(`Gallery post ${i / 4 + 1}`, rails, 'gallery post', () => [[iBeam(0.2, 3.15), paints.steel]], {
        at: [2.2 + i, 26.5, 0],
      });
  }
  for (const [stair, east] of [10, 50].entries())
    for (let step = 0; step < 16; step++)
      model.object(
        `Tread ${step + 1} of stair ${stair + 1}`,
        rails,
        'tread',
        () => [[box(1.1, 0.27, 0.04), paints.galvanised]],
        {
          at: [east, 20.3 + step * 0.27 - 0.2, 0.2 + step * 0.2],
        },
      );
}

export function crane(model: ModelWriter, paints: Paints): void {
  const group = model.group('Crane');
  for (const [side, north] of [
    ['south', 1.2],
    ['north', depth - 1.2],
  ] as const)
    model.object(
      `Crane rail, ${side}`,
      group,
      'crane rail',
      () => [[laidAlongX(iBeam(0.45, width - 2)), paints.steel]],
      { at: [1, north, 9.2] },
    );
  for (const east of [34, 36])
    model.object(
      `Bridge girder at ${east} m`,
      group,
      'girder',
      () => [[laidAlongY(iBeam(0.7, depth - 2.4)), paints.safety]],
      { at: [east, 1.2, 9.9] },
    );
  model.object('Trolley', group, 'trolley', () => [[box(2.6, 1.8, 0.7), paints.safety]], { at: [35, 14, 10.3] });
  model.object('Hoist rope', group, 'rope', () => [[cylinder(0.03, 5, 12), paints.cable]], { at: [35, 14, 5.3] });
  model.object(
    'Hook block',
    group,
    'hook',
    () => [[merge(cylinder(0.3, 0.5, 24), moved(cylinder(0.08, 0.4, 16), [0, 0, -0.4])), paints.safety]],
    {
      at: [35, 14, 4.8],
    },
  );
}
