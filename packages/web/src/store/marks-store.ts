import { createStore, type StoreApi } from 'zustand/vanilla';
import { length3, sub3, type Vec3 } from '@gull-pane/core/geometry/vec';
import { markWays, movedBy, turnedAbout, withPoint, type MarkShape } from '@gull-pane/core/marks/build';
import { edited, heard, redone, startHistory, undone, type History } from '@gull-pane/core/marks/history';
import type { Mark, MarkStyle } from '@gull-pane/core/marks/mark';
import { normalOf, onPlane, type WorkPlane } from '@gull-pane/core/plane/work-plane';
import type { Gap } from '@gull-pane/core/planar/area-walker';
import { markDto, markOf, type MarkDto } from '@gull-pane/protocol/marks';
import { api } from '../api/client';
import { troubleOf } from './drawings-store';
import { useNotes } from './notes-store';
import { sameJson } from './same-json';
import { usePreferences } from './preferences-store';
import { useSaver } from './saver';

/** An area that isn't closed: its gaps, and what it would be if they were. */
export interface OpenArea {
  readonly gaps: readonly Gap[];
  readonly shape: MarkShape | null;
}

export interface MarksState {
  readonly marks: readonly Mark[];
  /** Ids of those that are chosen. */
  readonly chosen: ReadonlySet<string>;
  /** What undo takes back and redo does again: “line”, “move 3 marks”; null if there is nothing. */
  readonly undoes: string | null;
  readonly redoes: string | null;
  /** A mark that waits for its text. */
  readonly asksText: MarkShape | null;
  /** What couldn't be hatched. */
  readonly open: OpenArea | null;
  readonly load: () => Promise<void>;
  /** Draws a mark as new marks look. @returns whether the points make one */
  readonly draw: (way: string, points: readonly Vec3[], plane: WorkPlane) => boolean;
  readonly add: (shape: MarkShape, name: string) => void;
  readonly write: (text: string) => void;
  readonly setOpen: (open: OpenArea | null) => void;
  readonly choose: (ids: Iterable<string>, changes?: boolean) => void;
  readonly remove: (ids: readonly string[]) => void;
  readonly move: (ids: readonly string[], way: Vec3, copies: boolean) => void;
  readonly turn: (ids: readonly string[], plane: WorkPlane, about: Vec3, from: Vec3, to: Vec3) => void;
  readonly movePoint: (id: string, index: number, to: Vec3) => void;
  readonly restyle: (ids: readonly string[], style: Partial<MarkStyle>) => void;
  readonly rename: (id: string, text: string) => void;
  readonly undo: () => void;
  readonly redo: () => void;
  readonly heard: (told: { readonly put: readonly MarkDto[]; readonly remove: readonly string[] }, by: string) => void;
}
export type MarksStore = StoreApi<MarksState>;

/** This window, so that it needn't hear what it has told. */
const OWN = crypto.randomUUID();

const counted = (count: number): string => (count === 1 ? 'a mark' : `${count} marks`);

/** What has to become of marks so that they are as told. */
function differenceOf(
  marks: readonly Mark[],
  told: readonly Mark[],
): { readonly put: readonly Mark[]; readonly remove: readonly string[] } {
  const known = new Map(marks.map((mark) => [mark.id, mark]));
  const here = new Set(told.map(({ id }) => id));
  return {
    put: told.filter((mark) => !sameJson(known.get(mark.id), mark)),
    remove: [...known.keys()].filter((id) => !here.has(id)),
  };
}

/** The marks on top of a drawing, kept on the server for everybody; every change can be taken back in this session. */
export function createMarksStore(drawingId: string): MarksStore {
  let history: History = startHistory([]);
  let isLoaded = false;
  return createStore<MarksState>((set, get) => {
    const show = (): void => {
      const { marks, done, undone: back } = history;
      const here = new Set(marks.map(({ id }) => id));
      const { chosen } = get();
      const kept = [...chosen].filter((id) => here.has(id));
      set({
        marks,
        undoes: done.at(-1)?.name ?? null,
        redoes: back.at(-1)?.name ?? null,
        ...(kept.length === chosen.size ? {} : { chosen: new Set(kept) }),
      });
    };
    /** Shows at once and tells the server what is different. */
    const become = (next: History): void => {
      const before = new Map(history.marks.map((mark) => [mark.id, mark]));
      history = next;
      show();
      const put = next.marks.filter((mark) => before.get(mark.id) !== mark).map(markDto);
      const here = new Set(next.marks.map(({ id }) => id));
      const remove = [...before.keys()].filter((id) => !here.has(id));
      if (put.length === 0 && remove.length === 0) return;
      const send = (): Promise<void> => api.changeMarks(drawingId, { put, remove, by: OWN });
      useSaver
        .getState()
        .save(send)
        .catch((error: unknown) => {
          useNotes.getState().tell('failed', `The marks aren’t kept: ${troubleOf(error).title}`);
          void get().load();
        });
    };
    const marksOf = (ids: readonly string[]): Mark[] => {
      const wanted = new Set(ids);
      return history.marks.filter(({ id }) => wanted.has(id));
    };
    return {
      marks: [],
      chosen: new Set(),
      undoes: null,
      redoes: null,
      asksText: null,
      open: null,
      async load() {
        const take = async (): Promise<void> => {
          const told = (await api.marks(drawingId)).map(markOf);
          history = isLoaded ? heard(history, differenceOf(history.marks, told)) : startHistory(told);
          isLoaded = true;
          show();
        };
        const { waiting, save } = useSaver.getState();
        try {
          // after what this window has still to send
          await (waiting > 0 ? save(take) : take());
        } catch (error) {
          useNotes.getState().tell('failed', `The marks can’t be had: ${troubleOf(error).title}`);
        }
      },
      draw(id, points, plane) {
        const way = markWays.find((one) => one.id === id);
        const shape = way?.make(points, plane);
        if (!way || !shape) return false;
        if (way.asksText) set({ asksText: shape });
        else get().add(shape, way.name.toLowerCase());
        return true;
      },
      add(shape, name) {
        const mark = { ...usePreferences.getState().markStyle, ...shape, id: crypto.randomUUID() };
        become(edited(history, name, { put: [mark] }));
      },
      write(text) {
        const { asksText } = get();
        set({ asksText: null });
        if (asksText && text.trim() !== '') get().add({ ...asksText, text: text.trim() }, 'note');
      },
      setOpen: (open) => set({ open }),
      choose(ids, changes = false) {
        const chosen = new Set(changes ? get().chosen : []);
        for (const id of ids)
          if (changes && chosen.has(id)) chosen.delete(id);
          else chosen.add(id);
        set({ chosen });
      },
      remove(ids) {
        become(edited(history, `delete ${counted(ids.length)}`, { remove: ids }));
      },
      move(ids, way, copies) {
        if (length3(way) === 0) return;
        const moved = marksOf(ids).map((mark) => movedBy(mark, way));
        if (!copies) {
          become(edited(history, `move ${counted(moved.length)}`, { put: moved }));
          return;
        }
        const copied = moved.map((mark) => ({ ...mark, id: crypto.randomUUID() }));
        become(edited(history, `copy ${counted(moved.length)}`, { put: copied }));
        get().choose(copied.map(({ id }) => id));
      },
      turn(ids, plane, about, from, to) {
        const own = { ...plane, origin: about };
        const angle = (place: Vec3): number => {
          const { x, y } = onPlane(own, place);
          return Math.atan2(y, x);
        };
        const by = angle(to) - angle(from);
        const turned = marksOf(ids).map((mark) => turnedAbout(mark, about, normalOf(plane), by));
        become(edited(history, `turn ${counted(turned.length)}`, { put: turned }));
      },
      movePoint(id, index, to) {
        const [mark] = marksOf([id]);
        if (!mark?.points[index] || length3(sub3(mark.points[index], to)) === 0) return;
        become(edited(history, 'move a point', { put: [withPoint(mark, index, to)] }));
      },
      restyle(ids, style) {
        const put = marksOf(ids).map((mark) => ({ ...mark, ...style }));
        become(edited(history, `change ${counted(put.length)}`, { put }));
      },
      rename(id, text) {
        const put = marksOf([id]).map((mark) => ({ ...mark, text }));
        become(edited(history, 'change a text', { put }));
      },
      undo: () => become(undone(history)),
      redo: () => become(redone(history)),
      heard({ put, remove }, by) {
        if (by === OWN) return;
        history = heard(history, { put: put.map(markOf), remove });
        show();
      },
    };
  });
}
