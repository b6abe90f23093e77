import type { SolidAnswers } from '../picking/solid-answers';
import type { printOfSolid } from '../picking/solid-print';
import type { createStanceStore } from '../store/stance';

/** What only panes of models need. */
interface SolidParts {
  readonly SolidAnswers: typeof SolidAnswers;
  readonly printOfSolid: typeof printOfSolid;
  readonly createStanceStore: typeof createStanceStore;
}

let loaded: SolidParts | null = null;

/** Gets the code that only models need; to be waited for before the first one is shown. */
export async function loadSolidParts(): Promise<void> {
  if (loaded) return;
  const [{ SolidAnswers }, { printOfSolid }, { createStanceStore }] = await Promise.all([
    import('../picking/solid-answers'),
    import('../picking/solid-print'),
    import('../store/stance'),
  ]);
  loaded = { SolidAnswers, printOfSolid, createStanceStore };
}

/** @throws Error if its code hasn't been loaded */
export function solidParts(): SolidParts {
  if (!loaded) throw new Error('solidParts: the code for models hasn’t been loaded');
  return loaded;
}
