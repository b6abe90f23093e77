import { usePreferences } from './preferences-store';

/** Where the shelf is a sheet over the panes: it is folded until it is asked for. */
const IS_NARROW = '(width < 900px)';

/** Folds the shelf while the window is narrow, and opens it again as it was. To be called once, before the page is shown. */
export function foldWhereNarrow(): void {
  const list = matchMedia(IS_NARROW);
  let wasOpen: boolean | null = null;
  const mind = (): void => {
    const own = usePreferences.getState();
    if (list.matches) {
      wasOpen = own.isShelfOpen;
      own.set({ isShelfOpen: false });
    } else if (wasOpen !== null) {
      own.set({ isShelfOpen: wasOpen });
      wasOpen = null;
    }
  };
  list.addEventListener('change', mind);
  mind();
}
