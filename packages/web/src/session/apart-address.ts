/** Where the window of a pane finds its arrangement: parameters of its address. */
export const APART = { arrangement: 'apart', pane: 'pane' } as const;

/** Whether an address is that of a pane in a window of its own. */
export const isApart = (search: URLSearchParams): boolean => search.has(APART.arrangement) && search.has(APART.pane);
