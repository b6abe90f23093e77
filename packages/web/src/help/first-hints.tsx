import { X } from 'lucide-react';
import { useEffect, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { Parts } from '../actions/action';
import { KeyCaps } from '../actions/action-tip';
import { shownKey, useBindings } from '../actions/bindings';
import { usePreferences } from '../store/preferences-store';
import { toolInHand } from '../store/tool-store';
import './first-hints.css';

/** What helps most at first, one at a time; closed or used, it never comes again. */
const hints: readonly { readonly id: string; readonly act: string; readonly text: string }[] = [
  { id: 'find', act: 'find', text: 'goes to any text, layer or place by name' },
  { id: 'keys', act: 'keys', text: 'shows all keys and gestures' },
  { id: 'warm-up', act: 'warm-up', text: 'shows you round and warms up your hands' },
  { id: 'hands', act: 'hands', text: 'sets the gestures for your mouse, trackpad or screen' },
];

export function FirstHints({
  target,
}: {
  readonly target: Parts<'finds' | 'picked' | 'tools' | 'ui'>;
}): ReactElement | null {
  const { ui, finds, tools, picked } = target;
  const panel = useStore(ui, (state) => state.panel);
  const hasFound = useStore(finds, (state) => state.hits.length > 0);
  // while something is being done the prompt has the room
  const hasTool = useStore(tools, (state) => toolInHand(state) !== null);
  const hasPicks = useStore(picked, (state) => state.picked.size > 0);
  const used = hasFound ? 'find' : panel;
  useEffect(() => {
    const { closedHints, set } = usePreferences.getState();
    if (hints.some(({ id }) => id === used) && !closedHints.includes(used!))
      set({ closedHints: [...closedHints, used!] });
  }, [used]);
  const closed = usePreferences((state) => state.closedHints);
  const bindings = useBindings();
  const hint = hints.find(({ id }) => !closed.includes(id));
  if (!hint || hasTool || hasPicks) return null;
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
