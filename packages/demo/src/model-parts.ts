import type { ModelWriter } from './model-writer.ts';
import {
  bend,
  box,
  cylinder,
  flange,
  laidAlongX,
  laidAlongY,
  merge,
  moved,
  revolve,
  ring,
  turned,
  type Shape,
} from './solid-shapes.ts';

/** Things that stand in several buildings of the works. Metres, Z up. */

export interface Paints {
  readonly concrete: number;
  readonly steel: number;
  readonly galvanised: number;
  readonly seawater: number;
  readonly permeate: number;
  readonly pump: number;
  readonly motor: number;
  readonly valve: number;
  readonly wheel: number;
  readonly safety: number;
  readonly cable: number;
  readonly cabinet: number;
  readonly glass: number;
}

export const mixPaints = (model: ModelWriter): Paints => ({
  concrete: model.material('Concrete', '#b9b5ab', 0, 0.95),
  steel: model.material('Painted steel', '#5d7186', 0.2, 0.6),
  galvanised: model.material('Galvanised steel', '#a3adb3', 0.6, 0.45),
  seawater: model.material('Sea water pipe', '#1f8a86', 0.1, 0.5),
  permeate: model.material('Fresh water pipe', '#3f6fb5', 0.1, 0.5),
  pump: model.material('Pump casing', '#2f6f9f', 0.2, 0.45),
  motor: model.material('Motor housing', '#7a8a94', 0.3, 0.5),
  valve: model.material('Valve body', '#8a5a3c', 0.25, 0.5),
  wheel: model.material('Handwheel', '#c0392b', 0.1, 0.5),
  safety: model.material('Safety yellow', '#d9a521', 0.1, 0.6),
  cable: model.material('Cable', '#3a3f45', 0, 0.8),
  cabinet: model.material('Cabinet', '#d8d4c8', 0.1, 0.6),
  glass: model.material('Glass', '#a9c7cf', 0, 0.1, 0.35),
});

/** A length of pipe along X. */
export const pipe = (radius: number, length: number): Shape => laidAlongX(cylinder(radius, length, 32));
export const elbow = (radius: number): Shape => bend(radius, radius * 3, Math.PI / 2, 32, 12);
/** Two flanges that meet, along X. */
export const joint = (radius: number): Shape => {
  const half = laidAlongX(flange(radius, radius > 0.1 ? 16 : 4));
  return merge(half, turned(half, Math.PI));
};

/** A gate valve along X, its handwheel above: body, bonnet, yoke, spindle. */
export const gateValve = (radius: number): Shape =>
  merge(
    laidAlongX(
      moved(
        revolve(
          [
            [0, 0],
            [radius, 0],
            [radius * 1.4, radius * 0.6],
            [radius * 1.4, radius * 1.4],
            [radius, radius * 2],
            [0, radius * 2],
          ],
          32,
        ),
        [0, 0, -radius],
      ),
    ),
    cylinder(radius * 0.8, radius * 2, 24),
    moved(flange(radius * 0.6, 12), [0, 0, radius * 2]),
    moved(box(radius * 0.25, radius * 0.9, radius * 1.2), [0, 0, radius * 2.3]),
    moved(cylinder(radius * 0.12, radius * 2.2, 12), [0, 0, radius * 2.2]),
  );
export const handwheel = (radius: number): Shape =>
  merge(
    ring(radius, radius * 0.09, 10, 32),
    ...[0, 1, 2, 3].map((k) =>
      turned(moved(laidAlongX(cylinder(radius * 0.06, radius * 0.95, 8)), [0, 0, 0]), (k * Math.PI) / 2),
    ),
    moved(cylinder(radius * 0.2, radius * 0.2, 16), [0, 0, -radius * 0.1]),
  );

/** A centrifugal pump whose shaft lies along Y: volute, suction and discharge branches, feet. */
export const pumpCasing = (): Shape =>
  merge(
    laidAlongY(
      moved(
        revolve(
          [
            [0, 0],
            [0.7, 0],
            [1.1, 0.15],
            [1.3, 0.45],
            [1.3, 0.75],
            [1.1, 1.05],
            [0.7, 1.2],
            [0, 1.2],
          ],
          64,
        ),
        [0, 0, -0.6],
      ),
    ),
    laidAlongY(moved(cylinder(0.45, 1.6, 48), [0, 0, -1.9])),
    moved(cylinder(0.4, 1.2, 48), [-0.85, 0, 0.2]),
    moved(flange(0.4, 16), [-0.85, 0, 1.4]),
    ...[-0.8, 0.8].map((x) => moved(box(0.4, 1.1, 0.7), [x, 0, -1.5])),
  );
/** A motor with its cooling fins, its shaft along Y. */
export function motorHousing(): Shape {
  const fins = Array.from({ length: 36 }, (_, k) => {
    const angle = (k / 36) * 2 * Math.PI;
    const fin = moved(box(0.12, 2.2, 0.02), [0.88, 0, 0]);
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    const positions: number[] = [];
    for (let i = 0; i < fin.positions.length; i += 3) {
      const [x, y, z] = [fin.positions[i]!, fin.positions[i + 1]!, fin.positions[i + 2]!];
      positions.push(c * x - s * z, y, s * x + c * z);
    }
    return { positions, triangles: fin.triangles };
  });
  return merge(
    laidAlongY(moved(cylinder(0.84, 2.6, 48), [0, 0, -1.3])),
    laidAlongY(moved(cylinder(0.9, 0.4, 48), [0, 0, 1.3])),
    laidAlongY(moved(cylinder(0.14, 0.8, 24), [0, 0, -2.1])),
    moved(box(0.6, 0.8, 0.4), [0, 0, 0.8]),
    ...[-0.7, 0.7].map((x) => moved(box(0.25, 2.2, 0.35), [x, 0, -1.15])),
    ...fins,
  );
}

/** A square metre of open grating: bearing bars and cross bars. */
export const gratingPanel = (): Shape =>
  merge(
    ...Array.from({ length: 25 }, (_, k) => moved(box(0.005, 0.99, 0.03), [-0.48 + k * 0.04, 0, -0.03])),
    ...Array.from({ length: 10 }, (_, k) => moved(box(0.98, 0.006, 0.012), [0, -0.45 + k * 0.1, -0.02])),
  );

/** A post with two rails of a metre to the next, along X. */
export const railBay = (): Shape =>
  merge(
    cylinder(0.024, 1.1, 12),
    ...[0.55, 1.1].map((z) => moved(laidAlongX(cylinder(0.022, 1, 12)), [0, 0, z])),
    moved(box(1, 0.008, 0.12), [0.5, 0, 0]),
  );

/** A cable tray of a metre along X with its rungs. */
export const trayBay = (): Shape =>
  merge(
    ...[-0.2, 0.2].map((y) => moved(box(1, 0.006, 0.08), [0.5, y, 0])),
    ...[0.1, 0.35, 0.6, 0.85].map((x) => moved(box(0.04, 0.4, 0.01), [x, 0, 0])),
  );
export const cable = (): Shape => moved(laidAlongX(cylinder(0.025, 1, 10)), [0, 0, 0.035]);
/** What a tray hangs on. */
export const trayHanger = (): Shape => merge(box(0.05, 0.5, 0.04), moved(cylinder(0.015, 0.5, 8), [0, 0.23, 0]));
/** Holds a panel of grating to what it lies on. */
export const gratingClip = (): Shape => merge(box(0.05, 0.05, 0.008), cylinder(0.01, 0.03, 6));
export const luminaire = (): Shape => merge(box(1.4, 0.22, 0.1), moved(box(1.3, 0.16, 0.04), [0, 0, -0.04]));

/** A pipe's stand: saddle, post, foot. */
export const pipeStand = (radius: number, height: number): Shape =>
  merge(
    moved(box(0.4, 0.4, 0.03), [0, 0, 0]),
    cylinder(0.07, Math.max(height - radius, 0.05), 16),
    moved(box(0.16, radius * 2, 0.05), [0, 0, Math.max(height - radius - 0.05, 0)]),
  );
