/** The parts of a drawing's page that nobody sees at first: their code comes when they are opened. */
import { useStore } from 'zustand';
import type { Parts } from '../actions/action';
import type { Session } from '../session/session';
import { useNotes } from '../store/notes-store';
import { later, laterWhen } from '../controls/later';

const isPanel = (name: string) =>
  function useIsOpen({ target }: { readonly target: Parts<'ui'> }): boolean {
    return useStore(target.ui, ({ panel }) => panel === name);
  };

export const KeysSheet = laterWhen(async () => (await import('../help/keys-sheet')).KeysSheet, isPanel('keys'));
export const HandsPanel = laterWhen(async () => (await import('../help/hands-panel')).HandsPanel, isPanel('hands'));
export const SharePanel = laterWhen(async () => (await import('../share/share-panel')).SharePanel, isPanel('share'));
export const WarmUp = laterWhen(
  async () => (await import('../help/warm-up')).WarmUp,
  function useIsWarmingUp({ session }: { readonly session: Session }): boolean {
    return useStore(session.targetOf(session.panes.getState().active).ui, ({ panel }) => panel === 'warm-up');
  },
);
export const Presentation = laterWhen(
  async () => (await import('../tour/presentation')).Presentation,
  ({ target }: { readonly target: Parts<'ui'> }) => useStore(target.ui, ({ presenting }) => presenting !== null),
);
export const ConflictDialog = laterWhen(
  async () => (await import('../shelf/conflict-dialog')).ConflictDialog,
  function useHasConflict({ target }: { readonly target: Parts<'cards' | 'tours'> }): boolean {
    const ofCards = useStore(target.cards, ({ conflicts }) => conflicts.length > 0);
    const ofTours = useStore(target.tours, ({ conflicts }) => conflicts.length > 0);
    return ofCards || ofTours;
  },
);

export const TourBar = later(async () => (await import('../tour/tour-bar')).TourBar);
export const ViewsPanel = later(async () => (await import('../shelf/views-panel')).ViewsPanel);
export const MarksPanel = later(async () => (await import('../shelf/marks-panel')).MarksPanel);
export const PanesPanel = later(async () => (await import('../shelf/panes-panel')).PanesPanel);
export const PickedPanel = later(async () => (await import('../shelf/picked-panel')).PickedPanel);
export const TreePanel = later(async () => (await import('../shelf/tree-panel')).TreePanel);
export const ChangesPanel = later(async () => (await import('../shelf/changes-panel')).ChangesPanel);
export const SeenPanel = later(async () => (await import('../shelf/seen-panel')).SeenPanel);
export const ClipsPanel = later(async () => (await import('../shelf/clips-panel')).ClipsPanel);
export const Notes = laterWhen(
  async () => (await import('./notes')).Notes,
  () => useNotes(({ last }) => last !== null),
);
