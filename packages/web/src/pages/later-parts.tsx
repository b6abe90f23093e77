/** The parts of a drawing's page that nobody sees at first: their code comes when they are opened. */
import { lazy } from 'react';
import { useStore } from 'zustand';
import type { ActionTarget } from '../actions/action';
import { later } from './later';

interface OfPane {
  readonly target: ActionTarget;
}
const isPanel = (name: string) =>
  function useIsOpen({ target }: OfPane): boolean {
    return useStore(target.ui, ({ panel }) => panel === name);
  };

export const KeysSheet = later(async () => (await import('../help/keys-sheet')).KeysSheet, isPanel('keys'));
export const HandsPanel = later(async () => (await import('../help/hands-panel')).HandsPanel, isPanel('hands'));
export const SharePanel = later(async () => (await import('../share/share-panel')).SharePanel, isPanel('share'));
export const Presentation = later(
  async () => (await import('../tour/presentation')).Presentation,
  ({ target }: OfPane) => useStore(target.ui, ({ presenting }) => presenting !== null),
);
export const ConflictDialog = later(
  async () => (await import('../shelf/conflict-dialog')).ConflictDialog,
  function useHasConflict({ target }: OfPane): boolean {
    const ofCards = useStore(target.cards, ({ conflicts }) => conflicts.length > 0);
    const ofTours = useStore(target.tours, ({ conflicts }) => conflicts.length > 0);
    return ofCards || ofTours;
  },
);

export const TourBar = lazy(() => import('../tour/tour-bar'));

// the shelf has a place for each, and says which one is on its way
export const ViewsPanel = lazy(async () => ({ default: (await import('../shelf/views-panel')).ViewsPanel }));
export const MarksPanel = lazy(async () => ({ default: (await import('../shelf/marks-panel')).MarksPanel }));
export const PanesPanel = lazy(async () => ({ default: (await import('../shelf/panes-panel')).PanesPanel }));
export const PickedPanel = lazy(async () => ({ default: (await import('../shelf/picked-panel')).PickedPanel }));
export const TreePanel = lazy(async () => ({ default: (await import('../shelf/tree-panel')).TreePanel }));
export const ClipsPanel = lazy(async () => ({ default: (await import('../shelf/clips-panel')).ClipsPanel }));
