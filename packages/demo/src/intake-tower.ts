import { elbow, gratingPanel, handwheel, joint, mixPaints, pipe, railBay } from './model-parts.ts';
import { ModelWriter } from './model-writer.ts';
import { box, cylinder, merge, moved, revolve, ring, turned } from './solid-shapes.ts';
import { SHEET_EAST, SHEET_NORTH } from './works.ts';

export const INTAKE_TOWER_NAME = 'Kelpie Sound · intake tower';

/** Where the plan has the tower's middle, metres from the sheet's corner. */
const [EAST, NORTH] = [42, 245];
const BED = -14;
const DECK = 4.5;

/** The intake tower as a model in binary glTF: shaft, screens all round, deck with rails, gate and tunnel. */
export function intakeTowerModel(): Uint8Array<ArrayBuffer> {
  const model = new ModelWriter('Intake tower', [SHEET_EAST / 1000 + EAST, SHEET_NORTH / 1000 + NORTH, 0]);
  const paints = mixPaints(model);
  const shaft = model.group('Shaft');
  model.object('Footing', shaft, 'footing', () => [[cylinder(7.5, 1.5, 96), paints.concrete]], {
    at: [0, 0, BED - 1.5],
  });
  model.object(
    'Shaft wall',
    shaft,
    'shaft wall',
    () => [
      [
        revolve(
          [
            [5.2, 0],
            [5.6, 0],
            [5.2, 9],
            [5.2, DECK - BED],
            [4.6, DECK - BED],
            [4.6, 0],
            [5.2, 0],
          ],
          96,
        ),
        paints.concrete,
      ],
    ],
    { at: [0, 0, BED] },
  );
  const screens = model.group('Screens');
  for (let k = 0; k < 48; k++) {
    const angle = (k / 48) * 2 * Math.PI;
    model.object(
      `Screen ${k + 1}`,
      screens,
      'screen',
      () => [
        [
          merge(...Array.from({ length: 12 }, (_, bar) => moved(cylinder(0.02, 6, 8), [6.4, -0.35 + bar * 0.064, 0]))),
          paints.galvanised,
        ],
      ],
      { at: [0, 0, -10], turnRad: angle },
    );
    model.object(`Fin ${k + 1}`, screens, 'fin', () => [[moved(box(1.5, 0.12, 6.6), [6.2, 0, 0]), paints.steel]], {
      at: [0, 0, -10.3],
      turnRad: angle + Math.PI / 48,
    });
  }
  for (const [name, z] of [
    ['Lower screen ring', -10.2],
    ['Upper screen ring', -3.8],
  ] as const)
    model.object(name, screens, 'screen ring', () => [[ring(6.4, 0.14, 16, 96), paints.steel]], { at: [0, 0, z] });
  const deck = model.group('Deck');
  for (let i = -5; i <= 5; i++)
    for (let k = -5; k <= 5; k++)
      if (Math.hypot(i, k) < 5.4 && Math.hypot(i, k) > 1.2)
        model.object(`Deck grating ${i + 6}.${k + 6}`, deck, 'grating', () => [[gratingPanel(), paints.galvanised]], {
          at: [i, k, DECK],
        });
  for (let k = 0; k < 36; k++)
    model.object(`Deck rail ${k + 1}`, deck, 'deck rail', () => [[turned(railBay(), Math.PI / 2), paints.safety]], {
      at: [5.6 * Math.cos((k / 36) * 2 * Math.PI), 5.6 * Math.sin((k / 36) * 2 * Math.PI), DECK],
      turnRad: (k / 36) * 2 * Math.PI,
    });
  const gate = model.group('Gate');
  model.object('Gate leaf', gate, 'gate', () => [[box(0.3, 3.2, 3.6), paints.steel]], { at: [4.2, 0, BED + 1] });
  model.object('Gate spindle', gate, 'spindle', () => [[cylinder(0.08, DECK - BED - 3, 16), paints.galvanised]], {
    at: [4.2, 0, BED + 4],
  });
  model.object('Gate handwheel', gate, 'gate wheel', () => [[handwheel(0.5), paints.wheel]], {
    at: [4.2, 0, DECK + 1.1],
  });
  const tunnel = model.group('Tunnel');
  for (let i = 0; i < 8; i++) {
    model.object(`Tunnel ring ${i + 1}`, tunnel, 'tunnel', () => [[pipe(1.8, 5), paints.seawater]], {
      at: [4.6 + i * 5, 0, BED + 2],
    });
    model.object(`Tunnel joint ${i + 1}`, tunnel, 'tunnel joint', () => [[joint(1.8), paints.galvanised]], {
      at: [4.6 + i * 5, 0, BED + 2],
    });
  }
  const dosing = model.group('Dosing line');
  for (let i = 0; i < 6; i++)
    model.object(`Dosing pipe ${i + 1}`, dosing, 'dosing', () => [[cylinder(0.06, 3, 20), paints.permeate]], {
      at: [-4.3, 0, BED + 1 + i * 3],
    });
  model.object('Dosing bend', dosing, 'dosing bend', () => [[elbow(0.06), paints.permeate]], {
    at: [-4.3, 0, BED + 0.8],
  });
  model.camera('From the sea', [-34, -30, 14], [0, 0, -3]);
  return model.bytes();
}
