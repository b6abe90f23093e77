import type { ClipVolume } from '@gull-pane/core/clip/clip-volume';
import type { ObjectMask } from '@gull-pane/core/drawing/object-mask';
import { numbersOfRanges, rangesOf } from '@gull-pane/core/drawing/ranges';
import { worldPlane } from '@gull-pane/core/plane/work-plane';
import { solidLooks, type SolidLook } from '@gull-pane/core/solid/solid-looks';
import type { CardClipDto, CardShowsDto } from '@gull-pane/protocol/cards';
import { allLooks, type PaneLooks } from '../render/pane-view';
import type { OnTopStore } from './on-top-store';
import type { PaneParts } from './pane-parts';

const clipDto = ({ name, kind, keeps, isOn, centre, half, orientation: q }: ClipVolume): CardClipDto => ({
  ...{ name, kind, keeps, isOn, centre, half },
  ...{ qx: q.x, qy: q.y, qz: q.z, qw: q.w },
});

const kindNames = Object.keys(allLooks) as (keyof PaneLooks)[];

const toldMasks = new WeakMap<ObjectMask, string>();

/** A mask never changes: going through all objects once is enough. */
function rangesOfMask(mask: ObjectMask, objects: number): string {
  let told = toldMasks.get(mask);
  if (told === undefined) toldMasks.set(mask, (told = rangesOf(objects, (object) => mask.has(object))));
  return told;
}

/** How a pane shows its drawing now: all of a view but where it looks from. */
export function shownNow({ pane, drawing, clips, onTop }: Omit<PaneParts, 'seen'>): CardShowsDto {
  const { drawing: dto, layers, hidden, hiddenObjects } = drawing.getState();
  const { look, kinds } = pane.getState();
  return {
    ...(dto.kind === 'solid' ? { look } : { kindsOff: kindNames.filter((kind) => !kinds[kind]) }),
    hiddenLayers: layers.filter(({ id }) => hidden.has(id)).map(({ name }) => name),
    hiddenObjects: hiddenObjects ? rangesOfMask(hiddenObjects, dto.counts.objects) : '',
    revision: dto.revision,
    clips: clips.getState().volumes.map(clipDto),
    ...onTopNow(onTop),
  };
}

/** Of marks and the work plane only what isn't as usual. */
function onTopNow(onTop: OnTopStore): Partial<CardShowsDto> {
  const { showsMarks, hiddenMarkLayers, isWorld, plane, planeName } = onTop.getState();
  return {
    ...(showsMarks ? {} : { marksOff: true }),
    ...(hiddenMarkLayers.size > 0 ? { hiddenMarkLayers: [...hiddenMarkLayers] } : {}),
    ...(isWorld ? {} : { plane: { ...plane, name: planeName } }),
  };
}

function showOnTop({ marksOff, hiddenMarkLayers = [], plane }: CardShowsDto, onTop: OnTopStore): void {
  const { setShowsMarks, hideMarkLayers, setPlane } = onTop.getState();
  setShowsMarks(marksOff !== true);
  hideMarkLayers(hiddenMarkLayers);
  if (plane) setPlane({ origin: plane.origin, x: plane.x, y: plane.y }, plane.name);
  else setPlane(worldPlane);
}

const isLook = (look: string | undefined): look is SolidLook => solidLooks.some((one) => one === look);

/** Shows a pane's drawing as it was shown once. */
export function showAs(shows: CardShowsDto, { pane, drawing, clips, onTop }: Omit<PaneParts, 'seen'>): void {
  showOnTop(shows, onTop);
  const own = drawing.getState();
  const { layers } = own;
  const isHidden = new Set(shows.hiddenLayers);
  const ids = (wanted: boolean): number[] =>
    layers.filter(({ name }) => isHidden.has(name) === wanted).map(({ id }) => id);
  own.setLayersVisible(ids(false), true);
  own.setLayersVisible(ids(true), false);
  own.showAllObjects();
  // the objects of another import are others
  if (shows.revision === own.drawing.revision && shows.hiddenObjects !== '')
    own.hideObjects(numbersOfRanges(shows.hiddenObjects, own.drawing.counts.objects));
  if (isLook(shows.look)) pane.getState().setLook(shows.look);
  const off = new Set(shows.kindsOff ?? []);
  pane.getState().setKinds(Object.fromEntries(kindNames.map((kind) => [kind, !off.has(kind)])));
  clips
    .getState()
    .replace(
      shows.clips.map(({ qx, qy, qz, qw, ...clip }) => ({ ...clip, orientation: { x: qx, y: qy, z: qz, w: qw } })),
    );
}
