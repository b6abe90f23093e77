import { Download } from 'lucide-react';
import { useState, type ReactElement } from 'react';
import type { Parts } from '../actions/action';
import { saveFile } from '../basics/save-file';
import { MenuButton } from '../controls/menu-button';
import type { ComparisonState } from '../store/comparison-store';
import { troubleOf } from '../store/drawings-store';
import { useNotes } from '../store/notes-store';
import { changesAsCsv } from '../words/change-words';

/** The listed changes go out: as a table, as topics with viewpoints, as view cards, as a tour. */
export function ChangesOut({
  target,
  state,
}: {
  readonly target: Parts<'pane' | 'drawing' | 'seen' | 'cards' | 'comparison' | 'tours' | 'ui'>;
  readonly state: ComparisonState;
}): ReactElement {
  const [isBusy, setBusy] = useState(false);
  const { tell } = useNotes.getState();
  const make = async (make: () => Promise<string>): Promise<void> => {
    setBusy(true);
    try {
      tell('done', await make());
    } catch (error) {
      tell('failed', `The changes haven’t gone out. ${troubleOf(error).title}`);
    } finally {
      setBusy(false);
    }
  };
  const load = () => import('../session/views-of-changes');
  return (
    <MenuButton
      className="small-button"
      label={isBusy ? 'Making views of the changes' : 'Take the list out'}
      placement="bottomRight"
      items={[
        { key: 'csv', label: 'Save as CSV', onClick: () => saveCsv(target, state) },
        {
          key: 'bcf',
          label: 'Save as BCF topics',
          disabled: isBusy,
          onClick: () =>
            void make(async () => {
              const [{ viewsOfChanges }, { saveViews }] = await Promise.all([
                load(),
                import('../session/exchange-views'),
              ]);
              const losses = await saveViews(target, 'bcf-3.0', 'changes', (hasPictures) =>
                viewsOfChanges(target, hasPictures),
              );
              return ['The changes are saved as BCF topics.', ...losses].join(' ');
            }),
        },
        {
          key: 'cards',
          label: 'Keep as view cards',
          disabled: isBusy,
          onClick: () =>
            void make(async () => {
              const { groupOfChanges, keepChangesAsCards } = await load();
              const count = await keepChangesAsCards(target);
              return `${count === 1 ? '1 view is' : `${count} views are`} kept as “${groupOfChanges(state.comparison!)}”.`;
            }),
        },
        {
          key: 'tour',
          label: 'Make a tour of them',
          disabled: isBusy,
          onClick: () =>
            void make(async () => {
              const { groupOfChanges, keepChangesAsTour } = await load();
              await keepChangesAsTour(target);
              target.ui.getState().set({ hasTourBar: true });
              return `The tour “${groupOfChanges(state.comparison!)}” is there.`;
            }),
        },
      ]}
    >
      <Download size={14} aria-hidden />
    </MenuButton>
  );
}

function saveCsv({ drawing }: Parts<'drawing'>, { comparison, own }: ComparisonState): void {
  const { name, unit } = drawing.getState().drawing;
  const text = changesAsCsv(comparison!.changes, unit, (key) => own.get(key));
  saveFile(`${name}, changes.csv`, new Blob([text], { type: 'text/csv' }));
}
