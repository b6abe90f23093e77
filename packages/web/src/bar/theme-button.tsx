import { Moon, Sun, type LucideIcon } from 'lucide-react';
import type { ReactElement } from 'react';
import { ActionTip } from '../actions/action-tip';
import { usePreferences, type ThemeName } from '../store/preferences-store';

interface ThemeChoice {
  readonly theme: ThemeName;
  readonly name: string;
  readonly label: string;
  readonly sentence: string;
  readonly icon: LucideIcon;
}

const choices: readonly ThemeChoice[] = [
  { theme: 'chart-room', name: 'Chart room', label: 'Chart room, light', sentence: 'Ink on light paper.', icon: Sun },
  {
    theme: 'night-watch',
    name: 'Night watch',
    label: 'Night watch, dark',
    icon: Moon,
    sentence: 'Light lines on a dark ground.',
  },
];

/** Buttons of fixed meaning, one a theme; the one in use is pressed. */
export function ThemeButtons(): ReactElement {
  const { theme: inUse, set } = usePreferences();
  return (
    <div role="group" aria-label="Theme" className="theme-buttons">
      {choices.map(({ theme, name, label, sentence, icon: Icon }) => (
        <ActionTip key={theme} name={name} sentence={sentence} placement="bottomRight">
          <button
            type="button"
            className="icon-button"
            aria-label={label}
            aria-pressed={inUse === theme}
            onClick={() => set({ theme })}
          >
            <Icon size={18} aria-hidden />
          </button>
        </ActionTip>
      ))}
    </div>
  );
}
