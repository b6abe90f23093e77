import { createStore, type StoreApi } from 'zustand/vanilla';
import { withGroundPlan } from '@gull-pane/core/view/shown';
import type { DrawingDto, LayerDto } from '@gull-pane/protocol/drawings';
import type { TilesetJson } from '@gull-pane/protocol/tileset';
import { api } from '../api/client';
import { offLayers } from './drawing-store';
import { troubleOf } from './drawings-store';
import { useNotes } from './notes-store';
import type { PaneStore } from './pane-state';

/** A plan with what is fetched of it. */
export interface GroundPlan {
  readonly drawing: DrawingDto;
  readonly tileset: TilesetJson;
  /** Ids of layers that the file has switched off. */
  readonly hidden: ReadonlySet<number>;
}

export interface GroundPlanState {
  /** Plans that lie where the model stands, the one that covers most of it first; null until that is known. */
  readonly offers: readonly DrawingDto[] | null;
  /** The one that lies on the ground. */
  readonly plan: GroundPlan | null;
  readonly look: () => Promise<void>;
  /** Lays a plan on the ground, by its id; none with null. */
  readonly lay: (id: string | null) => void;
  /** Takes the plan away, or lays the first that is offered. */
  readonly toggle: () => void;
}
export type GroundPlanStore = StoreApi<GroundPlanState>;

const KEPT = 'gull-pane-ground-plans';

function keptPlans(): Record<string, string> {
  try {
    return JSON.parse(localStorage.getItem(KEPT) ?? '{}') as Record<string, string>;
  } catch {
    return {};
  }
}

type PlacedDrawing = Pick<DrawingDto, 'extents' | 'unit'>;

/** The part of a model's ground that a plan covers, 0 to 1; null if they share no place or differ in unit. */
function coveredShare(plan: PlacedDrawing, model: PlacedDrawing): number | null {
  const [p, m] = [plan.extents, model.extents];
  if (!p || !m || plan.unit !== model.unit) return null;
  const shared = (axis: 'x' | 'y'): number => Math.min(p.max[axis], m.max[axis]) - Math.max(p.min[axis], m.min[axis]);
  const [width, depth] = [shared('x'), shared('y')];
  if (width < 0 || depth < 0) return null;
  const share = (length: number, of: number): number => (of > 0 ? length / of : 1);
  return share(width, m.max.x - m.min.x) * share(depth, m.max.y - m.min.y);
}

/** The plans that lie where a model stands; those that cover most of its ground first. */
export function plansUnder<T extends PlacedDrawing>(model: PlacedDrawing, plans: readonly T[]): readonly T[] {
  return plans
    .map((plan) => ({ plan, share: coveredShare(plan, model) }))
    .filter(({ share }) => share !== null)
    .sort((a, b) => b.share! - a.share!)
    .map(({ plan }) => plan);
}

/** The plan that was laid on a model's ground last; null if none was. */
export const keptPlanOf = (model: string): string | null => keptPlans()[model] ?? null;

/** The plan in a model's ground plane: one place, flat and solid. Which one is part of the pane's view. */
export function createGroundPlanStore(model: DrawingDto, pane: PaneStore): GroundPlanStore {
  const keep = (id: string | null): void => {
    const others = Object.entries(keptPlans()).filter(([own]) => own !== model.id);
    const all = id === null ? others : [...others, [model.id, id] as const];
    localStorage.setItem(KEPT, JSON.stringify(Object.fromEntries(all)));
  };
  const store = createStore<GroundPlanState>((set, get) => {
    const lay = (id: string | null): void => {
      keep(id);
      pane.getState().update((shown) => withGroundPlan(shown, id), 'ground');
    };
    return {
      offers: null,
      plan: null,
      lay,
      async look() {
        if (model.kind !== 'solid') return;
        try {
          const all = await api.drawings();
          const plans = all.filter((one) => one.kind === 'flat' && one.status === 'ready');
          set({ offers: plansUnder(model, plans) });
          await fetchPlan();
        } catch {
          set({ offers: [] }); // the page tells itself that the server can't be reached
        }
      },
      toggle() {
        const [first] = get().offers ?? [];
        if (pane.getState().shown.groundPlan !== null) lay(null);
        else if (first) lay(first.id);
        else useNotes.getState().tell('failed', 'No plan in millimetres lies where this model stands.');
      },
    };
  });
  /** Loads the plan that the view has on its ground, if possible. */
  const fetchPlan = async (): Promise<void> => {
    const { groundPlan } = pane.getState().shown;
    const { offers, plan } = store.getState();
    if (groundPlan === (plan?.drawing.id ?? null)) return;
    const drawing = offers?.find(({ id }) => id === groundPlan);
    if (!drawing) {
      store.setState({ plan: null });
      return;
    }
    try {
      const [layers, tileset]: [LayerDto[], TilesetJson] = await Promise.all([
        api.layers(drawing.id),
        api.tileset(drawing.id),
      ]);
      // the view may have another one by now
      if (pane.getState().shown.groundPlan === drawing.id)
        store.setState({ plan: { drawing, tileset, hidden: offLayers(layers) } });
    } catch (error) {
      useNotes.getState().tell('failed', `The plan can’t be laid on the ground: ${troubleOf(error).title}`);
    }
  };
  pane.subscribe(({ shown }, before) => {
    if (shown.groundPlan !== before.shown.groundPlan) void fetchPlan();
  });
  return store;
}
