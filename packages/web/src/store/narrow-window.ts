import { usePreferences } from './preferences-store';

/** Where the shelf is a sheet over the panes: it is folded until it is asked for. */
const IS_NARROW = '(width < 900px)';
/** Where the rail is one, too. */
export const IS_PHONE = '(width < 540px)';

/** Folds shelf and rail while the window has no room for them, and opens them again as they were. To be called once. */
export function foldWhereNarrow(): void {
  fold('isShelfOpen', IS_NARROW);
  fold('isRailOpen', IS_PHONE);
}

function fold(part: 'isShelfOpen' | 'isRailOpen', where: string): void {
  const list = matchMedia(where);
  let wasOpen: boolean | null = null;
  const mind = (): void => {
    const own = usePreferences.getState();
    if (list.matches) {
      wasOpen = own[part];
      own.set({ [part]: false });
    } else if (wasOpen !== null) {
      own.set({ [part]: wasOpen });
      wasOpen = null;
    }
  };
  list.addEventListener('change', mind);
  mind();
}
