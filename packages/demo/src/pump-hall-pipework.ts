/** The pump sets of the pump hall, their manifolds, pipes and valves. */
import {
  elbow,
  gateValve,
  handwheel,
  joint,
  motorHousing,
  pipe,
  pipeStand,
  pumpCasing,
  type Paints,
} from './model-parts.ts';
import type { ModelWriter } from './model-writer.ts';
import { QUARTER, pumps } from './pump-hall-plan.ts';
import { box, cylinder, laidAlongY, merge, moved, turned } from './solid-shapes.ts';

export function pumpSets(model: ModelWriter, paints: Paints): void {
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
export function pipework(model: ModelWriter, paints: Paints): void {
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
