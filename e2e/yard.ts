/** A yard of known solids, and what a person's hands do with it. */
import type { Page } from '@playwright/test';
import { ModelWriter } from '../packages/demo/src/model-writer.ts';
import { box, cylinder, moved } from '../packages/demo/src/solid-shapes.ts';
import type { InspectedPane } from '@gull-pane/protocol/inspect';
import { openDrawing, settled, tap, type RunningApp } from './app.ts';

export const [E, N] = [412_600_000, 7_208_400_000];
export type Point = { readonly x: number; readonly y: number; readonly z: number };

/** A slab of 20 × 12 m, a tank and a tower on it; all places known. */
export function yard(hasSecondTank = false): Uint8Array<ArrayBuffer> {
  const model = new ModelWriter('Yard', [E / 1000, N / 1000, 0]);
  const grey = model.material('Concrete', '#b9b5ab', 0, 0.9);
  const teal = model.material('Tank', '#1f8a86', 0.4, 0.3);
  const red = model.material('Tower', '#c0392b', 0.1, 0.6);
  model.object('Slab', model.group('Slabs'), 'slab', () => [[box(20, 12, 0.5), grey]], { at: [10, 6, -0.5] });
  model.object('KS-TK-0007', model.group('Tanks'), 'tank', () => [[cylinder(2.5, 5, 96), teal]], { at: [5, 6, 0] });
  model.object('KS-TW-0003', model.group('Towers'), 'tower', () => [[moved(box(2, 2, 9), [0, 0, 0]), red]], {
    at: [15, 6, 0],
    facts: { service: 'degassing' },
  });
  if (hasSecondTank)
    model.object('KS-TK-0008', model.group('Tanks'), 'small tank', () => [[cylinder(1, 2, 48), teal]], {
      at: [18, 10, 0],
    });
  return model.bytes();
}

/** Where a world point is seen, page px: from the camera that `inspect()` tells, in either projection. */
export function seenAt({ rect, camera }: InspectedPane, point: Point): { x: number; y: number } {
  const minus = (a: Point, b: Point): Point => ({ x: a.x - b.x, y: a.y - b.y, z: a.z - b.z });
  const dot = (a: Point, b: Point): number => a.x * b.x + a.y * b.y + a.z * b.z;
  const way = minus(camera.eye, camera.target);
  const distance = Math.hypot(way.x, way.y, way.z);
  const back = { x: way.x / distance, y: way.y / distance, z: way.z / distance };
  const { up } = camera;
  const right = {
    x: up.y * back.z - up.z * back.y,
    y: up.z * back.x - up.x * back.z,
    z: up.x * back.y - up.y * back.x,
  };
  const offset = minus(point, camera.target);
  const perPx =
    camera.projection === 'parallel'
      ? camera.widthWorld! / rect.width
      : ((distance - dot(offset, back)) * 2 * Math.tan(camera.fovRad! / 2)) / rect.height;
  return {
    x: rect.x + rect.width / 2 + dot(offset, right) / perPx,
    y: rect.y + rect.height / 2 - dot(offset, up) / perPx,
  };
}
/** Degrees from level: 90 straight from above. */
export function tiltOf({ camera: { eye, target } }: InspectedPane): number {
  return (Math.atan2(eye.z - target.z, Math.hypot(eye.x - target.x, eye.y - target.y)) * 180) / Math.PI;
}
export const apart = (a: { x: number; y: number }, b: { x: number; y: number }): number =>
  Math.hypot(a.x - b.x, a.y - b.y);

export async function openYard(page: Page, app: RunningApp): Promise<InspectedPane> {
  await page.emulateMedia({ reducedMotion: 'reduce' });
  return openDrawing(page, app, 'Yard', yard());
}

/** The top of the tank, where a hand grabs it. */
export const tankTop = { x: E + 5000, y: N + 6000, z: 5000 };
export const towerTop = { x: E + 15_000, y: N + 6000, z: 9000 };

export async function orbit(page: Page, from: { x: number; y: number }, dx: number, dy: number): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.keyboard.down('Shift');
  await page.mouse.down({ button: 'middle' });
  await page.mouse.move(from.x + dx / 2, from.y + dy / 2, { steps: 4 });
  await page.mouse.move(from.x + dx, from.y + dy, { steps: 4 });
}
export async function letGo(page: Page): Promise<InspectedPane> {
  await page.mouse.up({ button: 'middle' });
  await page.keyboard.up('Shift');
  return settled(page);
}
export const press = async (page: Page, key: string): Promise<InspectedPane> => {
  await page.locator('.pane-surface').focus();
  await tap(page, key);
  return settled(page);
};
