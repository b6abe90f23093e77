import type { LucideIcon } from 'lucide-react';
import type { ScreenPoint } from '@gull-pane/core/camera/camera';
import type { GroundPlanStore } from '../store/ground-plan-store';
import type { FindStore } from '../store/find-store';
import type { Answers } from '../picking/pick-questions';
import type { PaneParts } from '../store/pane-parts';
import type { PanesStore } from '../store/panes-store';
import type { PickStore } from '../store/pick-store';
import type { PickedStore } from '../store/picked-store';
import type { SightStore } from '../store/sight-store';
import type { AreasStore } from '../store/areas-store';
import type { ClipsStore } from '../store/clips-store';
import type { CardsStore } from '../store/cards-store';
import type { SixAxisStore } from '../store/six-axis-store';
import type { StanceStore } from '../store/stance-store';
import type { MarksStore } from '../store/marks-store';
import type { ToolStore } from '../store/tool-store';
import type { TourPlayer } from '../store/tour-player';
import type { ToursStore } from '../store/tours-store';
import type { ComparisonStore } from '../store/comparison-store';
import type { CoverageStore } from '../store/coverage-store';
import type { UiStore } from '../store/ui-store';

/** What an action works on. */
export interface ActionTarget extends PaneParts {
  readonly tools: ToolStore;
  /** What is done to the clips that cut a model. */
  readonly clips: ClipsStore;
  readonly ui: UiStore;
  /** How the pane picks. */
  readonly picks: PickStore;
  /** What is picked in the pane's drawing. */
  readonly picked: PickedStore;
  readonly finds: FindStore;
  readonly sight: SightStore;
  /** How all panes lie side by side. */
  readonly panes: PanesStore;
  /** Views that are kept. */
  readonly cards: CardsStore;
  /** Tours through them. */
  readonly tours: ToursStore;
  /** What is drawn on top. */
  readonly marks: MarksStore;
  /** What plays them in this pane. */
  readonly player: TourPlayer;
  /** The plan on a solid's ground. */
  readonly groundPlan: GroundPlanStore;
  /** What a controller with six axes does. */
  readonly sixAxis: SixAxisStore;
  /** Who stands in a solid and walks there. */
  readonly stance: StanceStore;
  /** What answers where and what in the drawing. */
  readonly asked: Answers;
  /** What differs from a former revision of the drawing. */
  readonly comparison: ComparisonStore;
  /** What has been seen of the drawing. */
  readonly coverage: CoverageStore;
  /** What looks for the areas that are hatched. */
  readonly areas: AreasStore;
}

/** What a function or a component takes of a pane: the parts that it works with. */
export type Parts<Part extends keyof ActionTarget> = Pick<ActionTarget, Part>;

/**
 * Something that can be done to the active pane. One description serves its button, its tooltip, its keys, its row in
 * the menu and what hands do; a new one is an entry in a file of this folder. An action that names its parts can be done with these alone.
 */
export interface Action<Part extends keyof ActionTarget = keyof ActionTarget> {
  readonly id: string;
  readonly name: string;
  /** What it does, one sentence. */
  readonly sentence: string;
  /** Each as `KeyboardEvent.key`, with `Shift+` before it where that is held; the first is the one that is shown. */
  readonly keys: readonly string[];
  readonly icon: LucideIcon;
  /** @param at where in the pane it is meant, CSS px; the cursor or the middle if absent */
  run(target: Parts<Part>, at?: ScreenPoint): void;
  isEnabled?(target: Parts<Part>): boolean;
  /** The kind of drawing that it is for; absent if for any. */
  readonly for?: 'flat' | 'solid';
  /** For tools: whether it is the one in hand. */
  isOn?(target: Parts<Part>): boolean;
}

/** Whether an action has a meaning for the drawing that is open. */
export const isFor = (action: Action, { drawing }: Parts<'drawing'>): boolean =>
  action.for === undefined || action.for === drawing.getState().drawing.kind;

/** Whether it can be done now. */
export const canRun = (action: Action, target: ActionTarget): boolean =>
  isFor(action, target) && action.isEnabled?.(target) !== false;
