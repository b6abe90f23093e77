import type { Vec2 } from '@gull-pane/core/geometry/vec';
import { screenToWorld } from '@gull-pane/core/camera/camera';
import { lineWidthsMm, type MarkStyle } from '@gull-pane/core/marks/mark';
import type { ObjectDto } from '@gull-pane/protocol/objects';
import type { Parts } from '../actions/action';
import { api } from '../api/client';
import { useNotes } from '../store/notes-store';
import { usePreferences } from '../store/preferences-store';
import { markUnder } from './mark-under';

const REACH_PX = 6;

/** New marks look as what lies at a place does: a mark, or an object of the drawing as wide as it is seen now. */
export async function takeOver(target: Parts<'pane' | 'drawing' | 'asked' | 'marks'>, at: Vec2): Promise<void> {
  const style = await styleAt(target, at);
  if (!style) {
    useNotes.getState().tell('failed', 'Nothing lies there whose look could be taken over.');
    return;
  }
  usePreferences.getState().set({ markStyle: style });
  useNotes.getState().tell('done', `New marks are ${style.line}, ${style.widthMm} mm wide, on “${style.layer}”.`);
}

async function styleAt(target: Parts<'pane' | 'drawing' | 'asked' | 'marks'>, at: Vec2): Promise<MarkStyle | null> {
  const mark = markUnder(target, at);
  if (mark) {
    const { layer, colour, line, widthMm } = mark;
    return { layer, colour, line, widthMm };
  }
  const { pane, asked, drawing } = target;
  const { camera, viewport } = pane.getState();
  const { layers, drawing: dto, solid } = drawing.getState();
  const question = { place: screenToWorld(camera, viewport, at), radius: REACH_PX * camera.unitsPerPx };
  const [hit] = await asked.ask('at', question).catch(() => []);
  if (!hit) return null;
  const [facts] = await asked.ask('facts', { entries: Uint32Array.of(hit.entry), withLength: false });
  const object = await api.object(dto.id, facts!.object).catch((): ObjectDto | null => null);
  const layer = layers.find(({ id }) => id === facts!.layer);
  const material = object?.solid?.parts[0]?.material;
  const paint = material === undefined ? undefined : solid?.materials[material]?.colour;
  const colour = object?.style?.colour ?? (paint && hexOf(paint)) ?? layer?.colour ?? '#000000';
  const widthPx = (object?.style?.width ?? 0) / camera.unitsPerPx;
  const dashes = object?.style?.dashes ?? [];
  return {
    layer: layer?.name || 'Marks',
    colour,
    line:
      dashes.length === 0
        ? 'solid'
        : dashes[0]! > 2 * (dashes[1] ?? 0)
          ? 'dashed'
          : isDotted(dashes)
            ? 'dotted'
            : 'dashed',
    widthMm: nearestWidth(widthPx * usePreferences.getState().mmPerPx),
  };
}

const isDotted = ([dash = 0, gap = 0]: readonly number[]): boolean => 2 * dash < gap;
const nearestWidth = (mm: number): number =>
  lineWidthsMm.reduce<number>(
    (best, width) => (Math.abs(width - mm) < Math.abs(best - mm) ? width : best),
    lineWidthsMm[0],
  );
const hexOf = (colour: readonly number[]): string =>
  `#${colour
    .slice(0, 3)
    .map((part) => Math.round(part).toString(16).padStart(2, '0'))
    .join('')}`;
