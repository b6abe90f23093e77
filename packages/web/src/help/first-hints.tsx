import { X } from 'lucide-react';
import type { ReactElement } from 'react';
import { KeyCaps } from '../actions/action-tip';
import { shownKey, useBindings } from '../actions/bindings';
import { usePreferences } from '../store/preferences-store';

/** What helps most at first, one at a time; closed, it never comes again. */
const hints: readonly { readonly id: string; readonly act: string; readonly text: string }[] = [
  { id: 'find', act: 'find', text: 'goes to any text, layer or place by name' },
  { id: 'keys', act: 'keys', text: 'tells all keys and gestures' },
  { id: 'hands', act: 'hands', text: 'fits the gestures to your mouse, trackpad or screen' },
];

export function FirstHints(): ReactElement | null {
  const closed = usePreferences((state) => state.closedHints);
  const bindings = useBindings();
  const hint = hints.find(({ id }) => !closed.includes(id));
  if (!hint) return null;
  const key = shownKey(bindings[hint.act] ?? []);
  return (
    <span className="first-hint" role="note" aria-label="Hint">
      {key !== undefined && <KeyCaps keyName={key} />} {hint.text}
      <button
        type="button"
        className="icon-button"
        aria-label="Close the hint"
        onClick={() => usePreferences.getState().set({ closedHints: [...closed, hint.id] })}
      >
        <X size={14} aria-hidden />
      </button>
    </span>
  );
}
