import { useLayoutEffect, type RefObject } from 'react';

/**
 * Leaves parts of a line or a column out, the least needed first, until the rest fits. What is left out stands in
 * `data-without`, a list of names; style sheets say what each name hides.
 * @param line what must not overflow; its parts must not shrink
 * @param parts names in the order in which they are left out; the same array at each rendering
 */
export function useRoom(
  line: RefObject<HTMLElement | null>,
  parts: readonly string[],
  along: 'width' | 'height',
): void {
  useLayoutEffect(() => {
    const own = line.current!;
    const overflows = (): boolean =>
      along === 'width' ? own.scrollWidth > own.clientWidth : own.scrollHeight > own.clientHeight;
    const fit = (): void => {
      for (let count = 0; count <= parts.length; count++) {
        own.dataset.without = parts.slice(0, count).join(' ');
        if (!overflows()) return;
      }
    };
    const sizes = new ResizeObserver(fit);
    const watch = (): void => {
      sizes.disconnect();
      for (const part of [own, ...own.children]) sizes.observe(part);
      fit();
    };
    const children = new MutationObserver(watch);
    children.observe(own, { childList: true });
    watch();
    return () => {
      sizes.disconnect();
      children.disconnect();
    };
  }, [line, parts, along]);
}
