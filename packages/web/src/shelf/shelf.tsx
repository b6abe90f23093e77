import { PanelLeftClose, PanelLeftOpen, Wrench, type LucideIcon } from 'lucide-react';
import type { KeyboardEvent, ReactElement, ReactNode } from 'react';
import { ActionTip } from '../actions/action-tip';
import { PartBoundary } from '../controls/part-boundary';
import { useMedia } from '../controls/use-media';
import { IS_PHONE } from '../store/narrow-window';
import { usePreferences } from '../store/preferences-store';
import './shelf.css';

export interface ShelfPanel {
  readonly id: string;
  readonly name: string;
  readonly icon: LucideIcon;
  readonly content: ReactNode;
}

/** The shelf at the left: open with one of its panels, or folded to a strip of icons with labels. */
export function Shelf({ panels }: { readonly panels: readonly ShelfPanel[] }): ReactElement {
  const { isShelfOpen, shelfPanel, set } = usePreferences();
  const shown = panels.find(({ id }) => id === shelfPanel) ?? panels[0]!;
  if (!isShelfOpen) {
    return (
      <aside className="shelf shelf-folded" aria-label="Shelf">
        <RailOpener />
        {panels.map(({ id, name, icon: Icon }) => (
          <ActionTip key={id} name={name} sentence={`Opens the shelf at ${name.toLowerCase()}.`}>
            <button
              type="button"
              className="shelf-label"
              aria-expanded={false}
              onClick={() => set({ isShelfOpen: true, shelfPanel: id })}
            >
              <Icon size={18} aria-hidden />
              {name}
              <PanelLeftOpen size={14} aria-hidden />
            </button>
          </ActionTip>
        ))}
      </aside>
    );
  }
  /** Arrow keys go from tab to tab, as in every list of tabs. */
  const turn = (event: KeyboardEvent<HTMLElement>): void => {
    const at = panels.indexOf(shown);
    const next = { ArrowRight: at + 1, ArrowLeft: at - 1, Home: 0, End: -1 }[event.key];
    if (next === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    const { id } = panels.at(next % panels.length)!;
    set({ shelfPanel: id });
    document.getElementById(`shelf-tab-${id}`)?.focus();
  };
  return (
    <aside className="shelf" aria-label="Shelf">
      <div className="shelf-head">
        <div role="tablist" aria-label="Shelf" className="shelf-tabs" onKeyDown={turn}>
          {panels.map(({ id, name, icon: Icon }) => (
            <button
              key={id}
              id={`shelf-tab-${id}`}
              type="button"
              role="tab"
              className="shelf-tab"
              aria-selected={id === shown.id}
              tabIndex={id === shown.id ? 0 : -1}
              aria-controls="shelf-panel"
              title={name}
              onClick={() => set({ shelfPanel: id })}
            >
              <Icon size={16} aria-hidden />
              <span>{name}</span>
            </button>
          ))}
        </div>
        <ActionTip name="Fold the shelf" sentence="Leaves more room for the drawing." placement="bottom">
          <button
            type="button"
            className="icon-button"
            aria-label="Fold the shelf"
            aria-expanded
            onClick={() => set({ isShelfOpen: false })}
          >
            <PanelLeftClose size={18} aria-hidden />
          </button>
        </ActionTip>
      </div>
      <div id="shelf-panel" role="tabpanel" aria-labelledby={`shelf-tab-${shown.id}`} className="shelf-panel">
        <PartBoundary key={shown.id} name="This panel">
          {shown.content}
        </PartBoundary>
      </div>
    </aside>
  );
}

/** Where the rail is a sheet over the panes, this opens and closes it. */
function RailOpener(): ReactElement | null {
  const isPhone = useMedia(IS_PHONE);
  const { isRailOpen, set } = usePreferences();
  if (!isPhone) return null;
  return (
    <button
      type="button"
      className="shelf-label"
      aria-expanded={isRailOpen}
      onClick={() => set({ isRailOpen: !isRailOpen })}
    >
      <Wrench size={18} aria-hidden />
      Tools
    </button>
  );
}
