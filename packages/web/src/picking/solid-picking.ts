type SolidPicking = typeof import('./solid-answers') & typeof import('./solid-print');

let loaded: SolidPicking | null = null;

/** Gets the code that answers questions about solids; to be waited for before the first solid is shown. */
export async function loadSolidPicking(): Promise<void> {
  if (loaded) return;
  const [answers, print] = await Promise.all([import('./solid-answers'), import('./solid-print')]);
  loaded = { ...answers, ...print };
}

/** @throws Error if its code hasn't been loaded */
export function solidPicking(): SolidPicking {
  if (!loaded) throw new Error('solidPicking: the code for solids hasn’t been loaded');
  return loaded;
}
