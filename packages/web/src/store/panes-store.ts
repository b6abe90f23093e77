import { createStore, type StoreApi } from 'zustand/vanilla';
import type { Box3 } from '@gull-pane/core/geometry/box';
import type { Pointed } from '@gull-pane/core/panes/echo';
import type { TieHolds } from '@gull-pane/core/panes/tie';
import {
  MOST_PANES,
  areasOf,
  closePane,
  evenOut,
  moveDivider,
  panesOf,
  renamed,
  splitPane,
  swapPanes,
  type Area,
  type Branch,
  type Divider,
  type Tiling,
} from '@gull-pane/core/panes/tiling';

/** Two panes that move together. */
export interface Tie extends TieHolds {
  readonly one: string;
  readonly other: string;
}

/** What a cursor points at, for the other panes to show. */
export interface EchoSource {
  readonly pane: string;
  readonly drawingId: string;
  /** What the drawing's grid is, to tell which others share it. */
  readonly grid: { readonly unit: string; readonly extents: Box3 | null };
  readonly pointed: Pointed;
}

export interface PanesState {
  readonly tiling: Tiling;
  /** The pane that keys and buttons act on. */
  readonly active: string;
  /** The one that fills the whole area for a while. */
  readonly filled: string | null;
  /** What panes have to share, CSS px. */
  readonly area: Area;
  readonly ties: readonly Tie[];
  readonly echo: EchoSource | null;
  /** What a cursor pointed at before it went to another pane: one can follow it there. */
  readonly pastEcho: EchoSource | null;
  /** A pane that a menu or a link names just now: it is lit. */
  readonly named: string | null;
  readonly setNamed: (pane: string | null) => void;
  /** Panes that a ready arrangement has just made: they ask what to show. */
  readonly unasked: readonly string[];
  /** A pane shows what it shall. */
  readonly answer: (pane: string) => void;
  /** Panes that are in windows of their own. */
  readonly apart: readonly string[];
  /** Whether a change of the arrangement can be taken back. */
  readonly canUndo: boolean;
  readonly setArea: (width: number, height: number) => void;
  readonly activate: (pane: string) => void;
  /** The next pane in reading order becomes the active one. */
  readonly step: (by: 1 | -1) => void;
  /** A pane gives half of its area to a new one that shows the same. @returns the new one; null if there are too many */
  readonly split: (along: Branch['along'], pane?: string) => string | null;
  readonly close: (pane?: string) => void;
  /** The active pane fills the area, or goes back to just where it was. */
  readonly fill: (pane?: string) => void;
  readonly swap: (one: string, other: string) => void;
  readonly drag: (divider: Divider, to: number) => void;
  readonly even: (divider: Divider) => void;
  /** Takes a ready arrangement: panes that are there fill it in reading order, the active one first among them all. */
  readonly lay: (tiling: Tiling) => void;
  /** Shows in a pane what another shows. */
  readonly copyView: (from: string, to: string) => void;
  readonly tie: (one: string, other: string, holds: TieHolds) => void;
  readonly untie: (one: string, other: string) => void;
  /** Whether two panes show drawings on one grid, so that a place of one is a place of the other. */
  readonly sharesPlace: (one: string, other: string) => boolean;
  readonly setEcho: (echo: EchoSource | null) => void;
  readonly forgetPastEcho: () => void;
  /** A pane leaves the tiling for a window of its own. */
  readonly sendApart: (pane: string) => void;
  /** It comes back beside the active one. */
  readonly takeBack: (pane: string) => void;
  readonly fitAll: () => void;
  /** Lays the plan and the model of one place side by side. */
  readonly planAndModel: () => Promise<void>;
  /** Lays two revisions of the active pane's drawing side by side, tied. @param from the earlier one's number */
  readonly beforeAndAfter: (from: number, to: number) => Promise<void>;
  /** Shows another drawing, or another revision of it, in a pane. @param drawing its id or address */
  readonly openIn: (pane: string, drawing: string) => Promise<void>;
  /** Lays plan and elevations of the active pane's model so that features line up. */
  readonly planWithElevations: () => Promise<void>;
  /** Opens a window of its own for a pane, which leaves the tiling. */
  readonly openApart: (pane: string) => void;
  /** Copies a short link to all that is shown. */
  readonly copyLink: () => Promise<void>;
  /** The arrangement can be gone back to. @param isWhole with what each pane shows, not only how they lie */
  readonly remember: (isWhole: boolean) => void;
  readonly undo: () => void;
  /** Becomes another arrangement, whose panes are there. */
  readonly take: (arranged: Pick<PanesState, 'tiling' | 'active' | 'ties'>) => void;
  /** A pane shows another drawing. */
  readonly renew: () => void;
  /** Rises whenever a pane becomes another under its old name. */
  readonly generation: number;
}
export type PanesStore = StoreApi<PanesState>;

/** What the arrangement needs from around it. */
export interface PanesSurroundings {
  /** Makes a pane that shows what another shows. */
  readonly add: (pane: string, like: string) => void;
  /** A pane is shown no more. */
  readonly drop: (pane: string) => void;
  readonly copyView: (from: string, to: string) => void;
  readonly fitAll: () => void;
  readonly planAndModel: () => Promise<void>;
  /** Lays two revisions of the active pane's drawing side by side, tied. @param from the earlier one's number */
  readonly beforeAndAfter: (from: number, to: number) => Promise<void>;
  /** Shows another drawing, or another revision of it, in a pane. @param drawing its id or address */
  readonly openIn: (pane: string, drawing: string) => Promise<void>;
  readonly planWithElevations: () => Promise<void>;
  readonly openApart: (pane: string) => void;
  readonly copyLink: () => Promise<void>;
  readonly sharesPlace: (one: string, other: string) => boolean;
  /** Brings a tie about: the other pane follows the first. */
  readonly follow: (tie: Tie) => void;
  /** Everything that the panes are and show. */
  readonly capture: () => unknown;
  readonly restore: (captured: unknown, isWhole: boolean) => void;
}

/** So many arrangements can be gone back to. */
const MOST_UNDONE = 20;

/** How panes lie side by side, and what goes on between them: the only code that changes it. */
export function createPanesStore(first: string, around: PanesSurroundings): PanesStore {
  const before: { readonly captured: unknown; readonly isWhole: boolean }[] = [];
  return createStore<PanesState>((set, get) => {
    const remember = (): void => get().remember(false);
    const unused = (): string => unusedBeside([...panesOf(get().tiling), ...get().apart]);
    const withoutTies = (pane: string): readonly Tie[] =>
      get().ties.filter(({ one, other }) => one !== pane && other !== pane);
    const takeOut = (pane: string): boolean => {
      const { tiling, active, filled } = get();
      const rest = closePane(tiling, pane);
      if (!rest) return false;
      const panes = panesOf(tiling);
      const at = panes.indexOf(pane);
      set({
        tiling: rest,
        active: active === pane ? panes[at === 0 ? 1 : at - 1]! : active,
        filled: filled === pane ? null : filled,
        ...(get().echo?.pane === pane ? { echo: null } : {}),
      });
      return true;
    };
    return {
      tiling: { pane: first },
      active: first,
      filled: null,
      area: { x: 0, y: 0, width: 0, height: 0 },
      ties: [],
      echo: null,
      pastEcho: null,
      unasked: [],
      answer(pane) {
        if (get().unasked.includes(pane)) set({ unasked: get().unasked.filter((one) => one !== pane) });
      },
      named: null,
      setNamed(named) {
        if (named !== get().named) set({ named });
      },
      apart: [],
      canUndo: false,
      generation: 0,
      setArea(width, height) {
        const { area } = get();
        if (area.width !== width || area.height !== height) set({ area: { x: 0, y: 0, width, height } });
      },
      activate(pane) {
        const { active, tiling, filled } = get();
        if (active === pane || !panesOf(tiling).includes(pane)) return;
        set({ active: pane, ...(filled === null ? {} : { filled: pane }) });
      },
      step(by) {
        const panes = panesOf(get().tiling);
        const at = panes.indexOf(get().active);
        get().activate(panes[(at + by + panes.length) % panes.length]!);
      },
      split(along, pane = get().active) {
        if (panesOf(get().tiling).length + get().apart.length >= MOST_PANES) return null;
        remember();
        const added = unused();
        around.add(added, pane);
        set({ tiling: splitPane(get().tiling, pane, along, added), filled: null, active: added });
        return added;
      },
      close(pane = get().active) {
        if (panesOf(get().tiling).length < 2) return;
        remember();
        const ties = withoutTies(pane);
        if (takeOut(pane)) {
          set({ ties });
          around.drop(pane);
        }
      },
      fill(pane = get().active) {
        const { filled, tiling } = get();
        if (panesOf(tiling).length < 2) return;
        if (filled === null) set({ filled: pane, active: pane });
        else set({ filled: null });
      },
      swap(one, other) {
        if (one === other) return;
        remember();
        set({ tiling: swapPanes(get().tiling, one, other), filled: null });
      },
      drag(divider, to) {
        set({ tiling: moveDivider(get().tiling, get().area, divider, to) });
      },
      even(divider) {
        set({ tiling: evenOut(get().tiling, divider) });
      },
      lay(tiling) {
        remember();
        const { active } = get();
        const had = panesOf(get().tiling);
        const slots = panesOf(tiling);
        // where there is room for fewer, the active one stays
        const stay = slots.length < had.length ? [active, ...had.filter((pane) => pane !== active)] : had;
        const names = new Map<string, string>();
        const made: string[] = [];
        const kept = stay.slice(0, slots.length).sort((a, b) => had.indexOf(a) - had.indexOf(b));
        slots.forEach((slot, k) => {
          const name = kept[k] ?? unusedBeside([...kept, ...names.values(), ...get().apart]);
          if (k >= kept.length) {
            around.add(name, active);
            made.push(name);
          }
          names.set(slot, name);
        });
        const gone = had.filter((pane) => !kept.includes(pane));
        set({
          tiling: renamed(tiling, (slot) => names.get(slot)!),
          filled: null,
          unasked: made,
          ties: get().ties.filter(({ one, other }) => !gone.includes(one) && !gone.includes(other)),
          ...(gone.includes(get().echo?.pane ?? '') ? { echo: null } : {}),
        });
        gone.forEach(around.drop);
      },
      copyView(from, to) {
        if (from !== to) around.copyView(from, to);
      },
      sharesPlace: around.sharesPlace,
      tie(one, other, wanted) {
        if (one === other) return;
        const holds = { ...wanted, place: wanted.place && around.sharesPlace(one, other) };
        const others = get().ties.filter((tie) => !isBetween(tie, one, other));
        const isAny = holds.place || holds.scale || holds.direction !== 'free';
        const tie = { one, other, ...holds };
        set({ ties: isAny ? [...others, tie] : others });
        if (isAny) around.follow(tie);
      },
      untie(one, other) {
        set({ ties: get().ties.filter((tie) => !isBetween(tie, one, other)) });
      },
      fitAll: around.fitAll,
      planAndModel: around.planAndModel,
      beforeAndAfter: around.beforeAndAfter,
      openIn: around.openIn,
      planWithElevations: around.planWithElevations,
      openApart: around.openApart,
      copyLink: around.copyLink,
      setEcho(echo) {
        const { echo: before, pastEcho } = get();
        if (echo === before) return;
        if (before && echo?.pane !== before.pane) set({ echo, pastEcho: before });
        else set({ echo, pastEcho: echo && echo.pane === pastEcho?.pane ? null : pastEcho });
      },
      forgetPastEcho() {
        if (get().pastEcho) set({ pastEcho: null });
      },
      sendApart(pane) {
        if (takeOut(pane)) set({ apart: [...get().apart, pane] });
      },
      takeBack(pane) {
        if (!get().apart.includes(pane)) return;
        set({
          apart: get().apart.filter((one) => one !== pane),
          tiling: splitPane(get().tiling, get().active, 'row', pane),
          filled: null,
        });
      },
      remember(isWhole) {
        before.push({ captured: around.capture(), isWhole });
        if (before.length > MOST_UNDONE) before.shift();
        set({ canUndo: true });
      },
      undo() {
        const last = before.pop();
        if (last) around.restore(last.captured, last.isWhole);
        set({ canUndo: before.length > 0 });
      },
      take({ tiling, active, ties }) {
        set({ tiling, active, ties, filled: null, echo: null, pastEcho: null, generation: get().generation + 1 });
      },
      renew() {
        set({ generation: get().generation + 1 });
      },
    };
  });
}

/** A name for a new pane beside others. */
export function unusedBeside(used: readonly string[]): string {
  let number = 1;
  while (used.includes(String(number))) number++;
  return String(number);
}

export const isBetween = (tie: Pick<Tie, 'one' | 'other'>, one: string, other: string): boolean =>
  (tie.one === one && tie.other === other) || (tie.one === other && tie.other === one);

/** The ties of a pane, as seen from it. */
export const tiesOf = (ties: readonly Tie[], pane: string): readonly (Tie & { readonly with: string })[] =>
  ties.flatMap((tie) =>
    tie.one === pane ? [{ ...tie, with: tie.other }] : tie.other === pane ? [{ ...tie, with: tie.one }] : [],
  );

/** Where each pane lies now, the one that fills the area too. */
export function shownAreas({
  tiling,
  area,
  filled,
}: Pick<PanesState, 'tiling' | 'area' | 'filled'>): Map<string, Area> {
  const areas = areasOf(tiling, area);
  if (filled !== null) areas.set(filled, area);
  return areas;
}
