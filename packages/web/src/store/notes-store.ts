import { create } from 'zustand';

/** Something that a person should be told in passing: what has been done where nothing else shows it, or what failed. */
export interface Note {
  readonly kind: 'done' | 'failed';
  readonly text: string;
  /** Rises, so that the same words can be told again. */
  readonly number: number;
}

interface Notes {
  readonly last: Note | null;
  readonly tell: (kind: Note['kind'], text: string) => void;
}

/** What was told last. */
export const useNotes = create<Notes>()((set, get) => ({
  last: null,
  tell: (kind, text) => set({ last: { kind, text, number: (get().last?.number ?? 0) + 1 } }),
}));
