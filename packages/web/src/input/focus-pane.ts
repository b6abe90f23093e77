/** Gives the keys to the active pane. */
export const focusActivePane = (): void =>
  document.querySelector<HTMLElement>('.pane[data-active="true"] .pane-surface')?.focus({ preventScroll: true });
