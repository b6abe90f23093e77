import { Moon, Sun } from 'lucide-react';
import type { ReactElement } from 'react';
import { ActionTip } from '../actions/action-tip';
import { usePreferences } from '../store/preferences-store';

/** Two buttons of fixed meaning, one a theme; the one in use is pressed. */
export function ThemeButtons(): ReactElement {
  const { theme, setTheme } = usePreferences();
  return (
    <div role="group" aria-label="Theme" className="theme-buttons">
      <ActionTip name="Chart room" sentence="Ink on light paper." placement="bottomRight">
        <button
          type="button"
          className="icon-button"
          aria-label="Chart room, light"
          aria-pressed={theme === 'chart-room'}
          onClick={() => setTheme('chart-room')}
        >
          <Sun size={18} aria-hidden />
        </button>
      </ActionTip>
      <ActionTip name="Night watch" sentence="Light lines on a dark ground." placement="bottomRight">
        <button
          type="button"
          className="icon-button"
          aria-label="Night watch, dark"
          aria-pressed={theme === 'night-watch'}
          onClick={() => setTheme('night-watch')}
        >
          <Moon size={18} aria-hidden />
        </button>
      </ActionTip>
    </div>
  );
}
