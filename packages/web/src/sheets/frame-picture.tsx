import { useEffect, useRef, useState, type ReactElement } from 'react';
import type { SheetPart } from '@gull-pane/core/sheets/sheet-part';
import type { SheetFrameDto } from '@gull-pane/protocol/sheet-sets';
import { LEAST_FRAME_MM } from './move-frame';
import type { FramePictures } from './frame-pictures';
import { PartView } from './part-view';

/** Pictures are drawn anew when nothing has changed for so long, ms. */
const QUIET_MS = 120;

interface FramePictureProps {
  readonly frame: SheetFrameDto;
  readonly pxPerMm: number;
  readonly pictures: FramePictures;
}

/** What a frame shows, with marks and changes on top, as it will stand on paper. */
export function FramePicture({ frame, pxPerMm, pictures }: FramePictureProps): ReactElement {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [state, setState] = useState<'drawing' | 'drawn' | 'failed'>('drawing');
  const [onTop, setOnTop] = useState<readonly SheetPart[]>([]);
  const ratio = Math.min(window.devicePixelRatio, 2);
  const widthPx = Math.max(Math.round(Math.max(frame.widthMm, LEAST_FRAME_MM) * pxPerMm * ratio), 1);
  const heightPx = Math.max(Math.round(Math.max(frame.heightMm, LEAST_FRAME_MM) * pxPerMm * ratio), 1);
  useEffect(() => {
    const calledOff = new AbortController();
    const { signal } = calledOff;
    const timer = setTimeout(() => {
      setState('drawing');
      Promise.all([
        pictures.draw(frame, { widthPx, heightPx }, canvas.current!, signal),
        pictures.overlay(frame, signal).then((parts) => {
          if (!signal.aborted) setOnTop(parts);
        }),
      ]).then(
        () => setState('drawn'),
        () => {
          if (!signal.aborted) setState('failed');
        },
      );
    }, QUIET_MS);
    return () => {
      clearTimeout(timer);
      calledOff.abort();
    };
  }, [frame, widthPx, heightPx, pictures]);
  const { leftMm, topMm, widthMm, heightMm } = frame;
  return (
    <>
      <canvas ref={canvas} data-state={state} aria-hidden />
      {onTop.length > 0 && (
        <svg className="sheet-parts" viewBox={`${leftMm} ${topMm} ${widthMm} ${heightMm}`} aria-hidden>
          {onTop.map((part, k) => (
            <PartView key={k} part={part} />
          ))}
        </svg>
      )}
      {state === 'failed' && <p className="sheet-frame-trouble">The drawing’s tiles don’t come. Reload the page.</p>}
    </>
  );
}
