import { isMarkShown } from '@gull-pane/core/view/shown';
import type { Parts } from '../actions/action';
import type { MarkBrush } from '../render/mark-brush';
import { usePreferences } from '../store/preferences-store';
import { wayInHand } from '../store/tool-store';
import { groundOf } from '../theme/themes';
import { figureStyleOf } from '../words/figure-style';

/** Draws the marks of a pane's drawing while it is shown. @returns what ends it */
export function showMarks(
  own: HTMLCanvasElement,
  target: Parts<'pane' | 'drawing' | 'seen' | 'areas' | 'marks' | 'tools'>,
): () => void {
  const { pane, marks, seen, drawing, tools, areas } = target;
  const context = own.getContext('2d')!;
  let frame = 0;
  let isClear = false;
  /** What draws them, once there are any. */
  let Brush: typeof MarkBrush | null = null;
  let isOver = false;
  const draw = (): void => {
    frame = 0;
    const { marks: all, chosen, open } = marks.getState();
    const { camera, viewport, shown } = pane.getState();
    const ratio = window.devicePixelRatio;
    const [width, height] = [Math.round(viewport.widthPx * ratio), Math.round(viewport.heightPx * ratio)];
    if (own.width !== width || own.height !== height) [own.width, own.height] = [width, height];
    // it keeps its size while there is nothing on it: pictures are taken of it, too
    const isEmpty = all.length === 0 && !open;
    if (isEmpty && isClear) return;
    isClear = isEmpty;
    if (!isEmpty && !Brush) {
      void import('../render/mark-brush').then((loaded) => {
        Brush = loaded.MarkBrush;
        if (!isOver) wake();
      });
      return;
    }
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.clearRect(0, 0, width, height);
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    if (isEmpty || !Brush) return;
    const accent = getComputedStyle(own).getPropertyValue('--accent');
    const teal = getComputedStyle(own).getPropertyValue('--teal');
    const { theme, mmPerPx } = usePreferences.getState();
    const page = { ground: groundOf(theme), accent, mmPerPx };
    const brush = new Brush(context, camera, viewport, figureStyleOf(drawing), page);
    for (const mark of all) if (isMarkShown(shown, mark)) brush.mark(mark, chosen.has(mark.id));
    if (open) brush.openArea(open.gaps, teal);
  };
  const wake = (): void => {
    frame ||= requestAnimationFrame(draw);
  };
  seen.canvases = [...seen.canvases, own];
  wake();
  const stops = [
    pane.subscribe(wake),
    marks.subscribe(wake),
    usePreferences.subscribe(wake),
    // what is open is told while one hatches
    tools.subscribe((state) => {
      if (wayInHand(state)?.id === 'hatch') return;
      areas.getState().cancel();
      if (marks.getState().open) marks.getState().setOpen(null);
    }),
    () => {
      seen.canvases = seen.canvases.filter((one) => one !== own);
    },
  ];
  return () => {
    isOver = true;
    cancelAnimationFrame(frame);
    for (const stop of stops) stop();
  };
}
