import { Copy } from 'lucide-react';
import { useEffect, useLayoutEffect, useRef, type ReactElement } from 'react';
import type { Viewport } from '@gull-pane/core/camera/camera';
import type { Vec2, Vec3 } from '@gull-pane/core/geometry/vec';
import type { FigureStyle } from '@gull-pane/core/measure/figures';
import type { MeasureKind } from '@gull-pane/core/measure/measure-kinds';
import type { Placed } from '@gull-pane/core/measure/placed';
import type { Parts } from '../actions/action';
import { useNotes } from '../store/notes-store';
import { useFigureStyle } from '../words/figure-style';
import { BESIDE_PX } from './beside-tag';
import { besideAt, parkedAt, type Rect } from './park';
import { figureText, figuresAsText } from '../basics/figures';

interface FiguresTagProps {
  readonly target: Parts<'drawing'>;
  readonly kind: MeasureKind;
  readonly points: readonly Placed[];
  /** All points are there: it stands aside. */
  readonly isDone: boolean;
  readonly seen: (point: Vec3) => Vec2;
  readonly viewport: Viewport;
}

/** What is measured: the first figure large, the others below. Beside the cursor first, then in the nearest margin. */
export function FiguresTag({ target, kind, points, isDone, seen, viewport }: FiguresTagProps): ReactElement | null {
  const style: FigureStyle = useFigureStyle(target);
  const card = useRef<HTMLDivElement>(null);
  const figures = kind.figures(points);
  const places = points.map(seen);
  const at = places.at(-1)!;
  // its size is known only when it stands there
  useLayoutEffect(() => {
    const own = card.current;
    if (!own) return;
    const size = own.getBoundingClientRect();
    const { left, top } = isDone
      ? parkedAt(viewport, size, places, takenAround(own))
      : besideAt(viewport, size, at, BESIDE_PX);
    Object.assign(own.style, { left: `${left}px`, top: `${top}px` });
  });
  const text = figures && figuresAsText(figures, style);
  useCopyKey(isDone ? text : null);
  if (!figures || !text || Number.isNaN(at.x)) return null;
  const [first, ...rest] = figures;
  return (
    <div
      key={isDone ? 'parked' : 'beside'}
      ref={card}
      className="tool-tag figures"
      role="status"
      aria-label={kind.name}
      data-parked={isDone}
    >
      <strong>{figureText(first!, style)}</strong>
      {inRows(rest).map((row, index) => (
        <span key={index}>{row.map((figure) => `${figure.name} ${figureText(figure, style)}`).join(' · ')}</span>
      ))}
      {isDone && (
        <button type="button" className="tag-copy" aria-label="Copy the figures" onClick={() => void copyFigures(text)}>
          <Copy size={14} aria-hidden />
        </button>
      )}
    </div>
  );
}

/** What stands over the pane beside a card. */
function takenAround(card: HTMLElement): Rect[] {
  const pane = card.closest('.pane');
  const surface = pane?.querySelector('.pane-surface')?.getBoundingClientRect();
  if (!pane || !surface) return [];
  return [...pane.querySelectorAll('.pane-over > *')].map((other) => {
    const { left, top, width, height } = other.getBoundingClientRect();
    return { left: left - surface.left, top: top - surface.top, width, height };
  });
}

export async function copyFigures(text: string): Promise<void> {
  try {
    await navigator.clipboard.writeText(text);
    useNotes.getState().tell('done', 'The figures are copied.');
  } catch {
    useNotes.getState().tell('failed', 'This browser doesn’t let the page copy. Select the figures instead.');
  }
}

/** While figures stand there, the browser’s own key for copying copies them, unless something else is selected. */
function useCopyKey(text: string | null): void {
  useEffect(() => {
    if (text === null) return undefined;
    const copy = (event: ClipboardEvent): void => {
      const isInField = event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement;
      if (isInField || String(getSelection()) !== '') return;
      event.clipboardData?.setData('text/plain', text);
      event.preventDefault();
      useNotes.getState().tell('done', 'The figures are copied.');
    };
    document.addEventListener('copy', copy);
    return () => document.removeEventListener('copy', copy);
  }, [text]);
}

/** Short names stand in pairs: the card stays narrow. */
function inRows<T extends { readonly name: string }>(figures: readonly T[]): T[][] {
  const rows: T[][] = [];
  for (const figure of figures) {
    const last = rows.at(-1);
    const isShort = (one: T): boolean => one.name.length <= 7;
    if (last && last.length < 2 && isShort(figure) && last.every(isShort)) last.push(figure);
    else rows.push([figure]);
  }
  return rows;
}
