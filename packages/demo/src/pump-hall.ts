import { buildings } from './buildings.ts';
import {
  cable,
  elbow,
  gateValve,
  gratingClip,
  gratingPanel,
  handwheel,
  joint,
  luminaire,
  mixPaints,
  motorHousing,
  pipe,
  pipeStand,
  pumpCasing,
  railBay,
  trayBay,
  trayHanger,
  type Paints,
} from './model-parts.ts';
import { ModelWriter } from './model-writer.ts';
import { box, cylinder, laidAlongX, laidAlongY, merge, moved, turned } from './solid-shapes.ts';
import { SHEET_EAST, SHEET_NORTH } from './works.ts';

export const PUMP_HALL_NAME = 'Kelpie Sound · pump hall';

const QUARTER = Math.PI / 2;
const { width, depth, x: west, y: south } = buildings.pumpHall;
/** Where the plan has the pumps, metres from the hall's corner. */
const pumps = Array.from({ length: 8 }, (_, i) => ({ tag: `KS-PU-${201 + i}`, east: 6 + i * 7, north: 14 }));
const EAVES = 11;

/**
 * The pump hall as a model in binary glTF, where the site plan has it: eight pump sets with their motors, manifolds,
 * flanged pipes, valves, gratings, stairs, rails, a crane, cable trays and switch racks, in sixteen systems.
 */
export function pumpHallModel(): Uint8Array<ArrayBuffer> {
  const model = new ModelWriter('Pump hall', [SHEET_EAST / 1000 + west, SHEET_NORTH / 1000 + south, 0]);
  const paints = mixPaints(model);
  structure(model, paints);
  pumpSets(model, paints);
  pipework(model, paints);
  walkways(model, paints);
  lighting(model, paints);
  crane(model, paints);
  electrical(model, paints);
  model.camera('From the door', [width - 2, 2, 1.65], [20, 14, 1.5]);
  model.camera('Over the pumps', [30, -18, 22], [30, 16, 1]);
  return model.bytes();
}

function structure(model: ModelWriter, paints: Paints): void {
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

function pumpSets(model: ModelWriter, paints: Paints): void {
  const casings = model.group('Pumps');
  const motors = model.group('Motors');
  for (const { tag, east, north } of pumps) {
    const facts = { tag, service: 'sea water', flow: '5400 m3/h', head: '62 m', maker: 'Tern Pumps' };
    model.object(tag, casings, 'pump', () => [[pumpCasing(), paints.pump]], { at: [east, north - 2.4, 2], facts });
    model.object(
      `Coupling guard of ${tag}`,
      casings,
      'guard',
      () => [[laidAlongY(cylinder(0.3, 0.9, 24)), paints.safety]],
      {
        at: [east, north - 1.6, 2],
      },
    );
    model.object(`Base frame of ${tag}`, casings, 'base frame', () => [[box(2.6, 9, 0.25), paints.steel]], {
      at: [east, north, 0.5],
    });
    model.object(tag.replace('PU', 'MO'), motors, 'motor', () => [[motorHousing(), paints.motor]], {
      at: [east, north + 1.6, 2],
      facts: { tag: tag.replace('PU', 'MO'), power: '1250 kW', speed: '990 rpm' },
    });
    model.object(
      `Terminal box of ${tag.replace('PU', 'MO')}`,
      motors,
      'terminal box',
      () => [[box(0.5, 0.6, 0.5), paints.cabinet]],
      {
        at: [east + 1.05, north + 1.6, 2],
      },
    );
    for (let k = 0; k < 12; k++)
      model.object(
        `Anchor bolt ${k + 1} of ${tag}`,
        casings,
        'anchor',
        () => [[merge(cylinder(0.03, 0.18, 10), moved(cylinder(0.06, 0.05, 6), [0, 0, 0.06])), paints.galvanised]],
        { at: [east + (k % 2 === 0 ? -1.2 : 1.2), north - 4.2 + Math.floor(k / 2) * 1.68, 0.75] },
      );
  }
}

/** Headers along the hall, and for each pump its branches with valves, joints and stands. */
function pipework(model: ModelWriter, paints: Paints): void {
  const suction = model.group('Suction pipes');
  const discharge = model.group('Discharge pipes');
  const valves = model.group('Valves');
  const supports = model.group('Pipe supports');
  const instruments = model.group('Instruments');
  const lengthOf = (
    name: string,
    group: number,
    radius: number,
    from: readonly [number, number, number],
    length: number,
    turnRad = 0,
    paint = paints.seawater,
  ): void => {
    model.object(name, group, `pipe ${radius} ${length.toFixed(2)} ${paint}`, () => [[pipe(radius, length), paint]], {
      at: from,
      turnRad,
    });
  };
  const jointAt = (
    name: string,
    group: number,
    radius: number,
    at: readonly [number, number, number],
    turnRad: number,
  ): void => model.object(name, group, `joint ${radius}`, () => [[joint(radius), paints.galvanised]], { at, turnRad });
  for (let i = 0; i < 10; i++) {
    lengthOf(`Suction header, length ${i + 1}`, suction, 0.9, [2 + i * 5.8, 5, 2], 5.8);
    jointAt(`Suction header, joint ${i + 1}`, suction, 0.9, [2 + i * 5.8, 5, 2], 0);
    lengthOf(`Discharge header, length ${i + 1}`, discharge, 0.8, [2 + i * 5.8, 21, 4.6], 5.8, 0, paints.permeate);
    jointAt(`Discharge header, joint ${i + 1}`, discharge, 0.8, [2 + i * 5.8, 21, 4.6], 0);
    for (const [header, north, z, radius] of [
      ['suction', 5, 2, 0.9],
      ['discharge', 21, 4.6, 0.8],
    ] as const)
      model.object(
        `Stand ${i + 1} of the ${header} header`,
        supports,
        `stand ${z}`,
        () => [[pipeStand(radius, z), paints.galvanised]],
        {
          at: [4.5 + i * 5.8, north, 0],
        },
      );
  }
  pumps.forEach(({ tag, east, north }, i) => {
    // from the suction header to the pump's eye
    const branch = 0.45;
    lengthOf(`Suction branch of ${tag}`, suction, branch, [east, 5.8, 2], north - 4.3 - 5.8, QUARTER);
    for (const [k, at] of [6.2, 7.3, 8.9].entries())
      jointAt(`Suction joint ${k + 1} of ${tag}`, suction, branch, [east, at, 2], QUARTER);
    valve(model, paints, valves, `KS-VA-${401 + i}`, branch, [east, 6.75, 2], QUARTER);
    // from the discharge branch up and over to the header
    const riser = 0.4;
    model.object(`Riser of ${tag}`, discharge, 'riser', () => [[cylinder(riser, 0.6, 32), paints.permeate]], {
      at: [east - 0.85, north - 2.4, 3.5],
    });
    model.object(
      `Bend of ${tag}`,
      discharge,
      'discharge bend',
      () => [[moved(turned(bendDown(), QUARTER), [0, 0, 0]), paints.permeate]],
      { at: [east - 0.85, north - 2.4, 4.1] },
    );
    const from = north - 2.4 + 1.2;
    lengthOf(
      `Discharge branch of ${tag}`,
      discharge,
      riser,
      [east - 0.85, from, 5.3],
      21 - from - 0.5,
      QUARTER,
      paints.permeate,
    );
    for (const [k, at] of [from + 0.3, from + 1.9, from + 3.6, from + 5.6].entries())
      jointAt(`Discharge joint ${k + 1} of ${tag}`, discharge, riser, [east - 0.85, at, 5.3], QUARTER);
    valve(model, paints, valves, `KS-VA-${409 + i}`, riser, [east - 0.85, from + 1.1, 5.3], QUARTER);
    valve(model, paints, valves, `KS-VA-${417 + i}`, riser, [east - 0.85, from + 4.6, 5.3], QUARTER);
    for (let k = 0; k < 3; k++)
      model.object(
        `Stand ${k + 1} of the branch of ${tag}`,
        supports,
        'stand 5.3',
        () => [[pipeStand(riser, 5.3), paints.galvanised]],
        {
          at: [east - 0.85, from + 2.8 + k * 1.6, 0],
        },
      );
    for (const [k, [kind, z]] of (
      [
        ['PI', 5.7],
        ['TI', 5.7],
        ['FI', 5.7],
        ['LI', 2.4],
        ['PT', 2.4],
        ['VT', 2.9],
      ] as const
    ).entries())
      model.object(
        `KS-${kind}-${301 + i * 6 + k}`,
        instruments,
        'gauge',
        () => [
          [cylinder(0.02, 0.3, 10), paints.galvanised],
          [moved(laidAlongY(cylinder(0.09, 0.05, 32)), [0, -0.025, 0.36]), paints.cabinet],
        ],
        {
          at: [z > 4 ? east - 0.85 : east, z > 4 ? from + 2.4 + k * 0.4 : 7.8 + (k - 3) * 0.35, z],
          facts: { serves: tag },
        },
      );
    // drains to the trench: small bore with its own valves
    for (let k = 0; k < 3; k++) {
      lengthOf(`Drain ${k + 1} of ${tag}`, discharge, 0.05, [east + 1.2 + k * 0.25, north - 4, 0.62], 3.2, -QUARTER);
      for (let j = 0; j < 3; j++)
        jointAt(
          `Drain joint ${k + 1}.${j + 1} of ${tag}`,
          discharge,
          0.05,
          [east + 1.2 + k * 0.25, north - 4.4 - j, 0.62],
          QUARTER,
        );
      valve(
        model,
        paints,
        valves,
        `KS-VA-${501 + i * 3 + k}`,
        0.05,
        [east + 1.2 + k * 0.25, north - 4.9, 0.62],
        QUARTER,
      );
    }
  });
}

/** From upright at its origin over to lying along X. */
const bendDown = () => {
  const { positions, triangles } = elbow(0.4);
  const to: number[] = [];
  for (let i = 0; i < positions.length; i += 3) to.push(positions[i + 2]!, positions[i + 1]!, positions[i]!);
  const back: number[] = [];
  for (let i = 0; i < triangles.length; i += 3) back.push(triangles[i]!, triangles[i + 2]!, triangles[i + 1]!);
  return { positions: to, triangles: back };
};

function valve(
  model: ModelWriter,
  paints: Paints,
  group: number,
  tag: string,
  radius: number,
  at: readonly [number, number, number],
  turnRad: number,
): void {
  const own = tag.replace(/(\d+)$/, (digits) => digits.padStart(4, '0'));
  model.object(own, group, `valve ${radius}`, () => [[gateValve(radius), paints.valve]], {
    at,
    turnRad,
    facts: { tag: own, bore: `DN ${Math.round(radius * 2000)}`, kind: 'gate valve' },
  });
  model.object(`Handwheel of ${own}`, group, `handwheel ${radius}`, () => [[handwheel(radius * 0.9), paints.wheel]], {
    at: [at[0], at[1], at[2] + radius * 4.4],
  });
}

/** The gallery along the north side with its stairs and rails, and gratings over the drain trench. */
function walkways(model: ModelWriter, paints: Paints): void {
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

/** Light along the roof beams. */
function lighting(model: ModelWriter, paints: Paints): void {
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

function crane(model: ModelWriter, paints: Paints): void {
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

function electrical(model: ModelWriter, paints: Paints): void {
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
