import { Layers, PanelLeftClose, PanelLeftOpen } from 'lucide-react';
import type { ReactElement, ReactNode } from 'react';
import { ActionTip } from '../actions/action-tip';
import { usePreferences } from '../store/preferences-store';
import './shelf.css';

/** The shelf at the left: open with its panel, or folded to a strip of icons with labels. */
export function Shelf({ children }: { readonly children: ReactNode }): ReactElement {
  const { isShelfOpen, set } = usePreferences();
  if (!isShelfOpen) {
    return (
      <aside className="shelf shelf-folded" aria-label="Shelf">
        <ActionTip name="Layers" sentence="Opens the shelf with the drawing’s layers.">
          <button
            type="button"
            className="shelf-label"
            aria-expanded={false}
            onClick={() => set({ isShelfOpen: true })}
          >
            <Layers size={18} aria-hidden />
            Layers
            <PanelLeftOpen size={14} aria-hidden />
          </button>
        </ActionTip>
      </aside>
    );
  }
  return (
    <aside className="shelf" aria-label="Shelf">
      <div className="shelf-head">
        <Layers size={18} aria-hidden />
        <h2>Layers</h2>
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
      {children}
    </aside>
  );
}
