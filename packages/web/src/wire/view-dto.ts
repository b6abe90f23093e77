import { ObjectMask } from '@gull-pane/core/drawing/object-mask';
import { numbersOfRanges, rangesOf } from '@gull-pane/core/drawing/ranges';
import { solidLooks, type SolidLook } from '@gull-pane/core/solid/solid-looks';
import { isWorldPlane, kindNames, worldWorkPlane, type Shown } from '@gull-pane/core/view/shown';
import type { CardShowsDto } from '@gull-pane/protocol/cards';
import { clipFromDto, clipToDto } from '@gull-pane/protocol/clip-dto';
import type { DrawingDto, LayerDto } from '@gull-pane/protocol/drawings';

/** What of a drawing is needed to tell how it is shown: layers go by name, objects by the import that they are of. */
export interface NamedContent {
  readonly drawing: DrawingDto;
  readonly layers: readonly LayerDto[];
}

const toldMasks = new WeakMap<ObjectMask, string>();

/** A mask never changes: going through all objects once is enough. */
function rangesOfMask(mask: ObjectMask, objects: number): string {
  let told = toldMasks.get(mask);
  if (told === undefined) toldMasks.set(mask, (told = rangesOf(objects, (object) => mask.has(object))));
  return told;
}

/** How a drawing is shown, as it is kept in cards, arrangements, links and trails. */
export function shownToDto(shown: Shown, { drawing, layers }: NamedContent): CardShowsDto {
  const { look, kinds, hiddenLayers, hiddenObjects, clips, marks, workPlane, groundPlan } = shown;
  return {
    ...(drawing.kind === 'solid' ? { look } : { kindsOff: kindNames.filter((kind) => !kinds[kind]) }),
    hiddenLayers: layers.filter(({ id }) => hiddenLayers.has(id)).map(({ name }) => name),
    hiddenObjects: hiddenObjects ? rangesOfMask(hiddenObjects, drawing.counts.objects) : '',
    revision: drawing.revision,
    clips: clips.map(clipToDto),
    // of marks, the work plane and the ground only what isn't as usual
    ...(marks.areShown ? {} : { marksOff: true }),
    ...(marks.hiddenLayers.size > 0 ? { hiddenMarkLayers: [...marks.hiddenLayers] } : {}),
    ...(isWorldPlane(shown) ? {} : { plane: { ...workPlane.plane, name: workPlane.name } }),
    ...(groundPlan === null ? {} : { groundPlan }),
  };
}

const isLook = (look: string | undefined): look is SolidLook => solidLooks.some((one) => one === look);

/** How a drawing was shown once. @param now how it is shown now: what isn't told stays */
export function shownFromDto(dto: CardShowsDto, { drawing, layers }: NamedContent, now: Shown): Shown {
  const [layersOff, kindsOff] = [new Set(dto.hiddenLayers), new Set(dto.kindsOff ?? [])];
  const { objects } = drawing.counts;
  // the objects of another import are others
  const isThisImport = dto.revision === drawing.revision && dto.hiddenObjects !== '';
  const mask = isThisImport ? ObjectMask.none(objects).hiding(numbersOfRanges(dto.hiddenObjects, objects)) : null;
  return {
    look: isLook(dto.look) ? dto.look : now.look,
    kinds: Object.fromEntries(kindNames.map((kind) => [kind, !kindsOff.has(kind)])) as unknown as Shown['kinds'],
    hiddenLayers: new Set(layers.filter(({ name }) => layersOff.has(name)).map(({ id }) => id)),
    hiddenObjects: mask && mask.count > 0 ? mask : null,
    clips: dto.clips.map(clipFromDto),
    marks: { areShown: dto.marksOff !== true, hiddenLayers: new Set(dto.hiddenMarkLayers ?? []) },
    workPlane: dto.plane
      ? { plane: { origin: dto.plane.origin, x: dto.plane.x, y: dto.plane.y }, name: dto.plane.name }
      : worldWorkPlane,
    groundPlan: dto.groundPlan ?? null,
  };
}
