import { useCallback, useSyncExternalStore } from 'react';

/** Whether a media query holds now; renders anew when that changes. @param query such as `(width < 900px)` */
export function useMedia(query: string): boolean {
  const subscribe = useCallback(
    (onChange: () => void): (() => void) => {
      const list = matchMedia(query);
      list.addEventListener('change', onChange);
      return () => list.removeEventListener('change', onChange);
    },
    [query],
  );
  return useSyncExternalStore(subscribe, () => matchMedia(query).matches);
}
