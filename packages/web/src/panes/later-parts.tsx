/** The parts of a pane that only models have or that are opened from its foot: their code comes when they are shown. */
import { useStore } from 'zustand';
import { isWorldPlane } from '@gull-pane/core/view/shown';
import type { ActionTarget } from '../actions/action';
import { later, laterWhen } from '../controls/later';
import type { Scene } from '../render/scene/scene';
import { useWarmUp } from '../store/warm-up-store';
import type { ExactFeatures } from '../snapping/exact-features';

interface OfPane {
  readonly target: ActionTarget;
}

export const SolidMarks = later(async () => (await import('./solid-marks')).SolidMarks);
export const SolidFoot = later(async () => (await import('./solid-foot')).SolidFoot);
export const GridPart = later(async () => (await import('./solid-foot')).GridPart);
export const LockHint = later(async () => (await import('./solid-foot')).LockHint);
export const Dial = later(async () => (await import('./dial')).Dial);
export const StanceBar = later(async () => (await import('./stance-bar')).StanceBar);
export const LeashMark = later(async () => (await import('./stance-bar')).LeashMark);
export const StancePlan = later(async () => (await import('./stance-plan')).StancePlan);
export const Puck = laterWhen(
  async () => (await import('./puck')).Puck,
  ({ target }: OfPane) => useStore(target.sixAxis, ({ isShown }) => isShown),
);

export const ClipHandles = laterWhen(
  async () => (await import('./clip-handles')).ClipHandles,
  ({ target }: OfPane) => useStore(target.pane, ({ shown }) => shown.clips.length > 0),
);
export const MarkGrips = laterWhen(
  async () => (await import('./mark-grips')).MarkGrips,
  ({ target }: OfPane & { readonly features: ExactFeatures }) =>
    useStore(target.marks, ({ chosen }) => chosen.size > 0),
);
export const PlaneAxes = laterWhen(
  async () => (await import('./plane-axes')).PlaneAxes,
  ({ target }: OfPane) => useStore(target.pane, ({ shown }) => !isWorldPlane(shown)),
);
export const PaneAsk = laterWhen(
  async () => (await import('./pane-ask')).PaneAsk,
  ({ target }: OfPane) => useStore(target.panes, ({ unasked }) => unasked.includes(target.pane.getState().id)),
);
export const Beacon = laterWhen(
  async () => (await import('./beacon')).Beacon,
  ({ target }: OfPane) => useStore(target.sight, ({ isLost }) => isLost),
);
export const EchoMark = laterWhen(
  async () => (await import('./echo-mark')).EchoMark,
  ({ target }: OfPane) => useStore(target.panes, ({ echo }) => echo !== null),
);
export const Overview = laterWhen(
  async () => (await import('./overview')).Overview,
  ({ target }: OfPane & { readonly scene: Scene | null }) => useStore(target.pane, ({ hasOverview }) => hasOverview),
);

export const DrillMarks = laterWhen(
  async () => (await import('./drill-marks')).DrillMarks,
  () => useWarmUp(({ running }) => running !== null),
);

export const StrayOffer = laterWhen(
  async () => (await import('./stray-offer')).StrayOffer,
  ({ target }: OfPane) => useStore(target.sight, ({ strays }) => (strays?.strays.length ?? 0) > 0),
);
export const KeyCursorMark = laterWhen(
  async () => (await import('./key-cursor-mark')).KeyCursorMark,
  ({ target }: OfPane) => useStore(target.ui, ({ keyCursor }) => keyCursor !== null),
);
export const ChangesCanvas = laterWhen(
  async () => (await import('./changes-canvas')).ChangesCanvas,
  ({ target }: OfPane) => useStore(target.comparison, ({ isShown }) => isShown),
);
export const UnseenCanvas = laterWhen(
  async () => (await import('./unseen-canvas')).UnseenCanvas,
  ({ target }: OfPane) => useStore(target.coverage, ({ isShaded }) => isShaded),
);
export const BearingPanel = later(async () => (await import('./bearing-panel')).BearingPanel);
export const KindsPanel = later(async () => (await import('./kinds-panel')).KindsPanel);
export const ScalePanel = later(async () => (await import('./scale-panel')).ScalePanel);
export const TieChip = later(async () => (await import('./tie-chip')).TieChip);
export const ShortMenu = laterWhen(
  async () => (await import('./short-menu')).ShortMenu,
  ({ target }: OfPane) => useStore(target.ui, ({ menuAt }) => menuAt !== null),
);
