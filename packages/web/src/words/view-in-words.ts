import { widthWorld, type Camera, type Viewport } from '@gull-pane/core/camera/camera';
import { directionInWords } from '@gull-pane/core/camera/directions';
import { scaleDenominator } from '@gull-pane/core/camera/scale';
import type { DrawingUnit } from '@gull-pane/core/drawing/units';
import type { Shown } from '@gull-pane/core/view/shown';
import { coordinateText, grouped, scaleText } from '../basics/figures';
import { lookNames } from './look-names';

/** What a pane shows, as far as it is told in words. */
export interface TellableView {
  readonly drawing: string;
  readonly kind: 'flat' | 'solid';
  readonly unit: DrawingUnit;
  /** How many layers the drawing has. */
  readonly layers: number;
  readonly camera: Camera;
  readonly viewport: Viewport;
  readonly shown: Shown;
  readonly picked: number;
  /** Drawing units that a CSS px of the screen is wide at 1:1. */
  readonly unitsOfScreenPx: number;
  /** What lies under the cursor, if anything is known. */
  readonly under: string | null;
}

/** What a pane shows, in sentences: for those who don't see it. */
export function viewInWords(view: TellableView): string {
  const { drawing, kind, unit, layers, camera, viewport, shown, picked, under } = view;
  const { x, y, z } = camera.target;
  const write = (value: number): string => coordinateText(value, camera.unitsPerPx);
  const suffix = unit === 'none' ? '' : ` ${unit}`;
  const hiddenObjects = shown.hiddenObjects?.count ?? 0;
  const clips = shown.clips.filter(({ isOn }) => isOn).length;
  return [
    `${drawing}: ${directionInWords(camera)}, scale ${scaleText(scaleDenominator(camera, view.unitsOfScreenPx))}`,
    `Middle at E ${write(x)}, N ${write(y)}${kind === 'solid' ? `, Z ${write(z)}` : ''}${suffix}`,
    `${write(widthWorld(camera, viewport))}${suffix} across`,
    ...(kind === 'solid' ? [`Look: ${lookNames[shown.look]}`] : []),
    `${grouped(layers - shown.hiddenLayers.size)} of ${grouped(layers)} layers on`,
    ...(hiddenObjects > 0 ? [`${counted(hiddenObjects, 'object')} hidden`] : []),
    ...(clips > 0 ? [counted(clips, 'clip')] : []),
    picked === 0 ? 'Nothing picked' : `${counted(picked, 'object')} picked`,
    ...(under === null ? [] : [`Under the cursor: ${under}`]),
  ]
    .map((sentence) => `${sentence}.`)
    .join(' ');
}

const counted = (count: number, what: string): string => (count === 1 ? `1 ${what}` : `${grouped(count)} ${what}s`);
