/** Lamps, cable trays and switch racks of the pump hall. */
import { cable, luminaire, trayBay, trayHanger, type Paints } from './model-parts.ts';
import type { ModelWriter } from './model-writer.ts';
import { EAVES } from './pump-hall-plan.ts';
import { box, cylinder, moved } from './solid-shapes.ts';

/** Light along the roof beams. */
export function lighting(model: ModelWriter, paints: Paints): void {
  const group = model.group('Lighting');
  for (let row = 0; row < 6; row++)
    for (let i = 0; i < 20; i++) {
      const tag = `KS-LU-${String(1001 + row * 20 + i)}`;
      const [east, north] = [2 + i * 3, 3 + row * 5.5];
      model.object(tag, group, 'luminaire', () => [[luminaire(), paints.cabinet]], { at: [east, north, EAVES - 0.5] });
      for (const [side, shift] of [
        ['W', -0.5],
        ['E', 0.5],
      ] as const)
        model.object(
          `Hanger ${side} of ${tag}`,
          group,
          'light hanger',
          () => [[cylinder(0.008, 0.4, 6), paints.cable]],
          {
            at: [east + shift, north, EAVES - 0.4],
          },
        );
    }
}

export function electrical(model: ModelWriter, paints: Paints): void {
  const trays = model.group('Cable trays');
  for (let level = 0; level < 3; level++)
    for (let i = 0; i < 58; i++) {
      model.object(`Tray ${level + 1}.${i + 1}`, trays, 'tray', () => [[trayBay(), paints.galvanised]], {
        at: [2 + i, 31, 5.5 + level * 0.5],
      });
      for (const [phase, north] of [
        ['L1', 30.87],
        ['L2', 31],
        ['L3', 31.13],
      ] as const)
        model.object(`Cable ${level + 1}.${i + 1} ${phase}`, trays, 'cable', () => [[cable(), paints.cable]], {
          at: [2 + i, north, 5.5 + level * 0.5],
        });
      model.object(`Tie ${level + 1}.${i + 1}`, trays, 'tie', () => [[box(0.02, 0.36, 0.07), paints.safety]], {
        at: [2.7 + i, 31, 5.5 + level * 0.5],
      });
      model.object(`Hanger ${level + 1}.${i + 1}`, trays, 'hanger', () => [[trayHanger(), paints.galvanised]], {
        at: [2.5 + i, 31, 5.45 + level * 0.5],
      });
    }
  const racks = model.group('Switch racks');
  for (let i = 0; i < 40; i++) {
    const tag = `KS-SW-${String(601 + i)}`;
    model.object(
      tag,
      racks,
      'cabinet',
      () => [
        [box(0.8, 0.6, 2.1), paints.cabinet],
        [moved(box(0.7, 0.02, 1.9), [0, -0.31, 0.1]), paints.steel],
        [moved(box(0.04, 0.05, 0.2), [0.28, -0.34, 1]), paints.cable],
      ],
      { at: [6 + i * 1.25, 32.6, 0], facts: { tag, voltage: i < 8 ? '6.6 kV' : '400 V' } },
    );
  }
}
