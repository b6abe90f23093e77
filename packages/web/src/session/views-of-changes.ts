import { fitSupport } from '@gull-pane/core/camera/fit-support';
import type { ExchangedView } from '@gull-pane/exchange/view';
import type { Parts } from '../actions/action';
import { cornersOfCluster } from '../actions/change-actions';
import { listedClusters } from '../store/comparison-store';
import { cameraToDto } from '../wire/camera-dto';
import { shownToDto } from '../wire/view-dto';
import { clusterInWords, happenedTo, stateNames, subjectOf } from '../words/change-words';
import { cardPicture } from './exchange-views';

/** Of longer lists only the first become views. */
export const MOST_VIEWS = 100;
const MOST_NAME = 120;
/** The picture of a view, CSS px. */
const PICTURE = { widthPx: 480, heightPx: 300 } as const;

type Viewed = Parts<'pane' | 'drawing' | 'seen' | 'comparison'>;

/** How views of changes stand together. */
export const groupOfChanges = ({ from, to }: { readonly from: number; readonly to: number }): string =>
  `Changes ${from} to ${to}`;

/** A view of each listed cluster of changes, framed, with what was said of it. */
export async function viewsOfChanges(target: Viewed, hasPictures: boolean): Promise<ExchangedView[]> {
  const state = target.comparison.getState();
  const { comparison, own, others } = state;
  if (!comparison) return [];
  const { camera, viewport, limits, shown } = target.pane.getState();
  const { drawing } = target.drawing.getState();
  const shows = shownToDto(shown, target.drawing.getState());
  const frames = hasPictures ? (target.seen.startFrames?.(PICTURE) ?? null) : null;
  const views: ExchangedView[] = [];
  try {
    for (const cluster of listedClusters(state).slice(0, MOST_VIEWS)) {
      const changes = comparison.clusters[cluster]!.changes.map((k) => comparison.changes[k]!);
      const [first] = changes;
      const corners = cornersOfCluster(drawing, comparison.clusters[cluster]!.box);
      const framed = fitSupport(camera, viewport, corners, limits);
      const name =
        changes.length === 1
          ? `${subjectOf(first!)}: ${happenedTo(first!, drawing.unit)}`
          : `${subjectOf(first!)} and others: ${clusterInWords(changes)}`;
      const keys = new Set(changes.map(({ key }) => key));
      const said = [...own.values(), ...others].filter(({ change }) => keys.has(change));
      const comments = said.map(({ person, updatedAt, state: told, note }) => ({
        author: person || 'Somebody',
        date: updatedAt,
        text: [stateNames[told], note].filter((part) => part !== '').join(': '),
      }));
      const smaller = fitSupport(camera, PICTURE, corners, limits);
      const picture = await frames?.frame(smaller, AbortSignal.timeout(20_000)).catch(() => null);
      views.push({
        name: name.slice(0, MOST_NAME),
        group: groupOfChanges(comparison),
        camera: cameraToDto(framed),
        widthPx: viewport.widthPx,
        heightPx: viewport.heightPx,
        shows,
        ...(comments.length > 0 ? { comments } : {}),
        ...(picture ? { picture } : {}),
      });
    }
  } finally {
    frames?.dispose();
  }
  return views;
}

/** Keeps a view card of each listed cluster; those that are there already are brought up to date. @returns how many */
export async function keepChangesAsCards(target: Viewed & Parts<'cards'>): Promise<number> {
  const views = await viewsOfChanges(target, true);
  const taken = await Promise.all(
    views.map(async ({ picture, ...view }) => ({ ...view, picture: picture ? await cardPicture(picture) : '' })),
  );
  await target.cards.getState().keepAll(taken, 'update');
  return taken.length;
}

/** The same, and a tour through them. @returns the tour's id */
export async function keepChangesAsTour(target: Viewed & Parts<'cards' | 'tours'>): Promise<string> {
  await keepChangesAsCards(target);
  const group = groupOfChanges(target.comparison.getState().comparison!);
  const cards = (target.cards.getState().cards ?? []).filter((card) => card.group === group);
  return target.tours.getState().begin(group, cards);
}
