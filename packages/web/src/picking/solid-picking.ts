import type { SolidAnswers } from './solid-answers';
import type { printOfSolid } from './solid-print';

interface SolidPicking {
  readonly SolidAnswers: typeof SolidAnswers;
  readonly printOfSolid: typeof printOfSolid;
}

let loaded: SolidPicking | null = null;

/** Gets the code that answers questions about solids; to be waited for before the first solid is shown. */
export async function loadSolidPicking(): Promise<void> {
  if (loaded) return;
  const [answers, print] = await Promise.all([import('./solid-answers'), import('./solid-print')]);
  loaded = { SolidAnswers: answers.SolidAnswers, printOfSolid: print.printOfSolid };
}

/** @throws Error if its code hasn't been loaded */
export function solidPicking(): SolidPicking {
  if (!loaded) throw new Error('solidPicking: the code for solids hasn’t been loaded');
  return loaded;
}
