import { create } from 'zustand';
import { allows, type Role } from '@gull-pane/protocol/roles';
import type { SessionDto } from '@gull-pane/protocol/session';

interface Access {
  /** The server asks who one is. */
  readonly isNeeded: boolean;
  /** Who one is to the server; null until it has said so. */
  readonly session: SessionDto | null;
  setNeeded(isNeeded: boolean): void;
  /** Asks the server who one is. */
  load(): Promise<void>;
}

export const useAccess = create<Access>()((set) => ({
  isNeeded: false,
  session: null,
  setNeeded: (isNeeded) => set({ isNeeded }),
  async load() {
    const response = await fetch('/api/session').catch(() => null); // pages say that the server can't be reached
    if (!response?.ok) return;
    set({ session: (await response.json()) as SessionDto });
  },
}));

/** The name that a sign-in service gives somebody; empty where people name themselves. */
export const useSignedInName = (): string => useAccess(({ session }) => session?.person?.name ?? '');

/** Whether one may do something; also before the server has said so: it refuses what isn't allowed. */
export const useMay = (need: Role): boolean =>
  useAccess(({ session }) => session?.person === undefined || allows(session.person.role, need));
