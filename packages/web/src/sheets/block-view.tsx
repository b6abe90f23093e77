import type { ReactElement } from 'react';
import { blockNames } from '@gull-pane/core/sheets/block-parts';
import type { PaperRect } from '@gull-pane/core/sheets/sheet';
import type { SheetBlockDto } from '@gull-pane/protocol/sheet-sets';
import { GRID_MM, movedFrame, noGuides, type Guides, type Placed } from './move-frame';
import { byArrowKeys, useDrag } from './use-drag';

interface BlockViewProps {
  readonly block: SheetBlockDto;
  readonly size: Pick<PaperRect, 'widthMm' | 'heightMm'>;
  readonly pxPerMm: number;
  readonly guides: Guides;
  /** While it is dragged; null where that was called off. */
  readonly onDrag: (placed: Placed<SheetBlockDto> | null) => void;
  readonly onChange: (block: SheetBlockDto) => void;
}

/** A legend, a key plan or a table on a sheet, which is dragged to its place. */
export function BlockView({ block, size, pxPerMm, guides, onDrag, onChange }: BlockViewProps): ReactElement {
  const dragWith = useDrag<'place'>({
    pxPerMm,
    onBegin: () => undefined,
    onDrag: (_, way) => onDrag(movedFrame(block, size, way, guides)),
    onDrop: (_, way) => onChange(movedFrame(block, size, way, guides).rect),
    onCancel: () => onDrag(null),
  });
  const style = {
    left: block.leftMm * pxPerMm,
    top: block.topMm * pxPerMm,
    width: size.widthMm * pxPerMm,
    height: size.heightMm * pxPerMm,
  };
  return (
    <button
      type="button"
      className="sheet-block"
      style={style}
      aria-label={`${blockNames[block.kind]}: drag, or arrow keys, to move it`}
      onKeyDown={byArrowKeys(GRID_MM, (way) => onChange(movedFrame(block, size, way, noGuides).rect))}
      {...dragWith('place')}
    />
  );
}
