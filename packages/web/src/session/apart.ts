import type { Viewport } from '@gull-pane/core/camera/camera';
import type { StepKind } from '@gull-pane/core/trail/trail';
import type { ArrangedPaneDto } from '@gull-pane/protocol/arrangements';
import type { CameraDto } from '@gull-pane/protocol/camera';
import type { ActionTarget, Parts } from '../actions/action';
import { cameraFromDto, cameraToDto } from '../wire/camera-dto';
import type { EchoSource, PanesStore } from '../store/panes-store';
import { shownFromDto } from '../wire/view-dto';
import { APART } from './apart-address';
import { arrangedPane, dressAs } from './arranged';

/** What two windows that show parts of one arrangement tell each other. */
export type ApartMessage =
  /** The window of a pane has come up and asks what to show. */
  | { readonly kind: 'ready'; readonly pane: string }
  | { readonly kind: 'show'; readonly pane: string; readonly arranged: ArrangedPaneDto }
  /** @param step the kind of step on the trail; null while a movement goes on */
  | {
      readonly kind: 'camera';
      readonly pane: string;
      readonly camera: CameraDto;
      readonly size: Viewport;
      readonly step: StepKind | null;
    }
  | { readonly kind: 'echo'; readonly pane: string; readonly echo: EchoSource | null }
  | { readonly kind: 'picks'; readonly pane: string; readonly picked: readonly number[] }
  /** The window is left; the pane comes back as it was there. */
  | { readonly kind: 'left'; readonly pane: string; readonly arranged: ArrangedPaneDto }
  /** The main window is left, or takes the pane back. */
  | { readonly kind: 'close'; readonly pane: string };

/** The name of the channel of an arrangement's windows. */
const channelOf = (arrangement: string): BroadcastChannel => new BroadcastChannel(`gull-pane ${arrangement}`);

/**
 * Keeps a pane in step with the one that stands for it in the other window: its view, its picks, the echo.
 * @param pane its name in the main window
 * @param takesSize whether the other window tells how large the pane is
 * @returns what takes a message, and what ends it
 */
function keepInStep(
  target: Parts<'pane' | 'panes' | 'picked'>,
  pane: string,
  send: (message: ApartMessage) => void,
  takesSize: boolean,
): { readonly take: (message: ApartMessage) => void; readonly stop: () => void } {
  const { panes, picked: pickedStore } = target;
  const own = target.pane.getState().id;
  let isTaking = false;
  let sentTrail = target.pane.getState().trail;
  const stops = [
    target.pane.subscribe((state, before) => {
      const { camera, trail, isFlying, scrubAt } = state;
      if (isTaking || (camera === before.camera && trail === before.trail && isFlying === before.isFlying)) return;
      const isStep = !isFlying && scrubAt === null && trail !== sentTrail;
      if (isStep) sentTrail = trail;
      const step = isStep ? trail.entries[trail.current]!.kind : null;
      send({ kind: 'camera', pane, camera: cameraToDto(camera), size: state.viewport, step });
    }),
    pickedStore.subscribe(({ picked }, before) => {
      if (!isTaking && picked !== before.picked) send({ kind: 'picks', pane, picked: [...picked] });
    }),
    panes.subscribe(({ echo }, before) => {
      if (isTaking || echo === before.echo) return;
      // each window tells of the cursors of its own panes
      const isForeign = echo !== null && echo.pane === FOREIGN + pane;
      if (!isForeign) send({ kind: 'echo', pane, echo });
    }),
  ];
  return {
    take(message) {
      isTaking = true;
      try {
        if (message.kind === 'camera') {
          if (takesSize) target.pane.getState().resize(message.size);
          target.pane.getState().follow(cameraFromDto(message.camera), message.step);
          sentTrail = target.pane.getState().trail;
        } else if (message.kind === 'picks') pickedStore.getState().pick(new Set(message.picked));
        else if (message.kind === 'echo')
          panes.getState().setEcho(message.echo && { ...message.echo, pane: FOREIGN + pane });
      } finally {
        isTaking = false;
      }
    },
    stop: () => {
      for (const stop of stops) stop();
      if (panes.getState().echo?.pane === own) panes.getState().setEcho(null);
    },
  };
}

/** Before the name of a pane whose cursor is in another window. */
const FOREIGN = 'elsewhere ';

/** The window of a pane: what it asks for is told by the main window, if that is still there. */
export interface ApartOpening {
  readonly arranged: ArrangedPaneDto;
  /** Keeps the pane in step, and gives it back when the window is left. @returns what ends it */
  readonly stayInStep: (target: ActionTarget) => () => void;
}

/** So long a window waits for its arrangement, ms. */
const PATIENCE_MS = 4000;

/** Asks the main window what this one shall show. @returns null if there is no answer */
export function askForPane(search: URLSearchParams): Promise<ApartOpening | null> {
  const channel = channelOf(search.get(APART.arrangement) ?? '');
  const pane = search.get(APART.pane) ?? '';
  return new Promise((resolve) => {
    const timer = window.setTimeout(() => {
      channel.close();
      resolve(null);
    }, PATIENCE_MS);
    channel.onmessage = ({ data }: MessageEvent<ApartMessage>) => {
      if (data.kind !== 'show' || data.pane !== pane) return;
      window.clearTimeout(timer);
      resolve({ arranged: data.arranged, stayInStep: (target) => stayInStep(target, channel, pane) });
    };
    channel.postMessage({ kind: 'ready', pane } satisfies ApartMessage);
  });
}

function stayInStep(
  target: Parts<'pane' | 'drawing' | 'panes' | 'picked'>,
  channel: BroadcastChannel,
  pane: string,
): () => void {
  const send = (message: ApartMessage): void => channel.postMessage(message);
  const { take, stop } = keepInStep(target, pane, send, false);
  channel.onmessage = ({ data }: MessageEvent<ApartMessage>) => {
    if (data.pane !== pane) return;
    if (data.kind === 'close') window.close();
    else take(data);
  };
  const leave = (): void => send({ kind: 'left', pane, arranged: arrangedPane(pane, target) });
  window.addEventListener('pagehide', leave);
  return () => {
    stop();
    window.removeEventListener('pagehide', leave);
    channel.close();
  };
}

/** The panes of a window that are in windows of their own. */
export class ApartPanes {
  readonly #arrangement = crypto.randomUUID();
  readonly #channel = channelOf(this.#arrangement);
  readonly #inStep = new Map<string, ReturnType<typeof keepInStep>>();

  constructor(
    private readonly panes: PanesStore,
    private readonly targetOf: (pane: string) => ActionTarget | undefined,
  ) {
    this.#channel.onmessage = ({ data }: MessageEvent<ApartMessage>) => this.#take(data);
  }

  /** Opens a window for a pane. The pane leaves the tiling once that window is there. @returns false if it may not open */
  open(pane: string): boolean {
    const target = this.targetOf(pane);
    if (!target) return false;
    const { id } = target.drawing.getState().drawing;
    const { widthPx, heightPx } = target.pane.getState().viewport;
    const search = new URLSearchParams({ [APART.arrangement]: this.#arrangement, [APART.pane]: pane });
    const size = `popup,width=${Math.max(Math.round(widthPx), 600)},height=${Math.max(Math.round(heightPx), 420)}`;
    return window.open(`/d/${id}?${search.toString()}`, `gull-pane-${pane}`, size) !== null;
  }

  /** All panes come back, their windows close. */
  takeAllBack(): void {
    for (const pane of this.#inStep.keys()) {
      this.#channel.postMessage({ kind: 'close', pane } satisfies ApartMessage);
      this.#end(pane);
    }
  }

  close(): void {
    this.takeAllBack();
    this.#channel.close();
  }

  #take(message: ApartMessage): void {
    const { pane } = message;
    const target = this.targetOf(pane);
    if (!target) return;
    const send = (told: ApartMessage): void => this.#channel.postMessage(told);
    if (message.kind === 'ready') {
      send({ kind: 'show', pane, arranged: arrangedPane(pane, target) });
      this.#inStep.get(pane)?.stop();
      this.#inStep.set(pane, keepInStep(target, pane, send, true));
      this.panes.getState().sendApart(pane);
    } else if (message.kind === 'left') {
      dressAs(target, message.arranged);
      const { shows } = message.arranged;
      target.pane.getState().update((shown) => shownFromDto(shows, target.drawing.getState(), shown), 'look');
      target.pane.getState().follow(cameraFromDto(message.arranged.camera), 'jump');
      this.#end(pane);
    } else this.#inStep.get(pane)?.take(message);
  }

  #end(pane: string): void {
    this.#inStep.get(pane)?.stop();
    this.#inStep.delete(pane);
    this.panes.getState().takeBack(pane);
  }
}
