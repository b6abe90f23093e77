import type { MenuItems } from '../controls/drop-menu';

/**
 * Rows of a menu that put something to another place in its list, for those who don't drag.
 * @param list in its order
 * @param move puts one before another, or to the end with null
 */
export function movesOf(
  list: readonly { readonly id: string }[],
  id: string,
  move: (id: string, before: string | null) => Promise<void>,
): MenuItems {
  const at = list.findIndex((one) => one.id === id);
  const before = list[at - 1];
  const isLast = at === list.length - 1;
  return [
    { key: 'earlier', label: 'Move up', disabled: !before, onClick: () => void move(id, before?.id ?? null) },
    { key: 'later', label: 'Move down', disabled: isLast, onClick: () => void move(id, list[at + 2]?.id ?? null) },
    { key: 'last', label: 'Move to the end', disabled: isLast, onClick: () => void move(id, null) },
  ];
}
