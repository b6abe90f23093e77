import { create } from 'zustand';
import type { DrawingDto } from '@gull-pane/protocol/drawings';
import { hasEnded, type JobDto } from '@gull-pane/protocol/jobs';
import { ApiError, api, errorOf, followJob, type Sending } from '../api/client';
import type { Sent } from '../api/upload';

/** A failure as it is told to a person. */
export interface Trouble {
  readonly title: string;
  readonly detail: string;
  readonly hint: string;
}

/** A file on its way to the server. */
export interface SendingFile extends Sent {
  readonly id: number;
  readonly name: string;
  readonly callOff: () => void;
}

let lastSending = 0;

export interface DrawingsState {
  /** Null until the first answer. */
  readonly drawings: readonly DrawingDto[] | null;
  /** Why the list can't be loaded. */
  readonly trouble: Trouble | null;
  /** Progress of running imports, by drawing. */
  readonly jobs: Readonly<Record<string, JobDto>>;
  /** Files being sent. */
  readonly sending: readonly SendingFile[];
  /** Files that the server refused to take, newest first. */
  readonly refused: readonly (Trouble & { readonly file: string })[];
  refresh(): Promise<void>;
  send(file: File): Promise<void>;
  /** Imports a file in place of what the drawing shows now. */
  sendAnew(drawing: DrawingDto, file: File): Promise<void>;
  cancel(job: string): Promise<void>;
  rename(id: string, name: string): Promise<void>;
  remove(id: string): Promise<void>;
  forgetRefused(): void;
}

export function troubleOf(error: unknown): Trouble {
  const known = error instanceof ApiError ? error : errorOf(null);
  return { title: known.title, detail: known.message, hint: known.hint };
}

const followed = new Set<string>();

/** The list of drawings and what is happening to them. */
export const useDrawings = create<DrawingsState>()((set, get) => {
  const follow = (drawing: string, job: string): void => {
    if (followed.has(job)) return;
    followed.add(job);
    followJob(job, (state) => {
      set({ jobs: { ...get().jobs, [drawing]: state } });
      if (!hasEnded(state.state)) return;
      followed.delete(job);
      void get().refresh();
    });
  };
  const sendOne = async (
    file: File,
    send: (sending: Sending) => Promise<{ drawingId: string; jobId: string }>,
  ): Promise<void> => {
    const id = ++lastSending;
    const calling = new AbortController();
    const begun = { id, name: file.name, sent: 0, of: file.size, callOff: () => calling.abort() };
    set({ sending: [...get().sending, begun] });
    const onSent = (sent: Sent): void =>
      set({ sending: get().sending.map((one) => (one.id === id ? { ...one, ...sent } : one)) });
    try {
      const { drawingId, jobId } = await send({ signal: calling.signal, onSent });
      follow(drawingId, jobId);
    } catch (error) {
      if (!calling.signal.aborted) set({ refused: [{ file: file.name, ...troubleOf(error) }, ...get().refused] });
    } finally {
      set({ sending: get().sending.filter((one) => one.id !== id) });
      await get().refresh();
    }
  };
  return {
    drawings: null,
    trouble: null,
    jobs: {},
    sending: [],
    refused: [],

    async refresh() {
      try {
        const drawings = await api.drawings();
        set({ drawings, trouble: null });
        for (const { id, jobId } of drawings) if (jobId !== null) follow(id, jobId);
      } catch (error) {
        set({ trouble: troubleOf(error) });
      }
    },
    send: (file) => sendOne(file, (sending) => api.import(file, sending)),
    sendAnew: (drawing, file) => sendOne(file, (sending) => api.importAnew(drawing.id, file, sending)),
    async cancel(job) {
      await api.cancelJob(job).catch(() => undefined); // it may have ended in the meantime; the list will tell
      await get().refresh();
    },
    async rename(id, name) {
      await api.rename(id, name);
      await get().refresh();
    },
    async remove(id) {
      await api.remove(id);
      await get().refresh();
    },
    forgetRefused() {
      set({ refused: [] });
    },
  };
});
