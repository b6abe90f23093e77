/** The parts of a pane that only models have or that are opened from its foot: their code comes when they are shown. */
import { useStore } from 'zustand';
import type { ActionTarget } from '../actions/action';
import { later, laterWhen } from '../controls/later';

export const SolidFoot = later(async () => (await import('./solid-foot')).SolidFoot);
export const GridPart = later(async () => (await import('./solid-foot')).GridPart);
export const LockHint = later(async () => (await import('./solid-foot')).LockHint);
export const Dial = later(async () => (await import('./dial')).Dial);
export const StanceBar = later(async () => (await import('./stance-bar')).StanceBar);
export const LeashMark = later(async () => (await import('./stance-bar')).LeashMark);
export const StancePlan = later(async () => (await import('./stance-plan')).StancePlan);
export const Puck = laterWhen(
  async () => (await import('./puck')).Puck,
  ({ target }: { readonly target: ActionTarget }) => useStore(target.sixAxis, ({ isShown }) => isShown),
);

export const StrayOffer = laterWhen(
  async () => (await import('./stray-offer')).StrayOffer,
  ({ target }: { readonly target: ActionTarget }) =>
    useStore(target.sight, ({ strays }) => (strays?.strays.length ?? 0) > 0),
);
export const BearingPanel = later(async () => (await import('./bearing-panel')).BearingPanel);
export const KindsPanel = later(async () => (await import('./kinds-panel')).KindsPanel);
export const ScalePanel = later(async () => (await import('./scale-panel')).ScalePanel);
export const TieChip = later(async () => (await import('./tie-chip')).TieChip);
export const ShortMenu = laterWhen(
  async () => (await import('./short-menu')).ShortMenu,
  ({ target }: { readonly target: ActionTarget }) => useStore(target.ui, ({ menuAt }) => menuAt !== null),
);
