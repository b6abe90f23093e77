import { Button } from 'antd';
import { ArrowDown, ArrowUp, Trash2 } from 'lucide-react';
import type { ReactElement } from 'react';
import { formatScale } from '@gull-pane/core/camera/scale';
import { paperNameOf } from '@gull-pane/core/sheets/paper';
import type { PaperSheetDto } from '@gull-pane/protocol/sheet-sets';

interface SheetListProps {
  readonly sheets: readonly PaperSheetDto[];
  readonly chosen: number;
  readonly onChoose: (index: number) => void;
  readonly onMove: (index: number, to: number) => void;
  readonly onRemove: (index: number) => void;
}

/** The sheets of a set in their order. */
export function SheetList({ sheets, chosen, onChoose, onMove, onRemove }: SheetListProps): ReactElement {
  return (
    <ol className="sheet-list" aria-label="Sheets">
      {sheets.map((sheet, index) => (
        <li key={index} data-chosen={index === chosen}>
          <button
            type="button"
            className="sheet-row"
            aria-current={index === chosen ? 'page' : undefined}
            onClick={() => onChoose(index)}
          >
            <PaperOutline sheet={sheet} />
            <span>
              <b>{sheet.name}</b>
              <span className="muted">
                {`${index + 1} of ${sheets.length} · ${paperNameOf(sheet.paper) ?? 'own size'} · ${scalesOf(sheet)}`}
              </span>
            </span>
          </button>
          {index === chosen && (
            <span className="sheet-row-acts">
              <Button
                size="small"
                type="text"
                aria-label={`Move ${sheet.name} up`}
                disabled={index === 0}
                icon={<ArrowUp size={14} aria-hidden />}
                onClick={() => onMove(index, index - 1)}
              />
              <Button
                size="small"
                type="text"
                aria-label={`Move ${sheet.name} down`}
                disabled={index === sheets.length - 1}
                icon={<ArrowDown size={14} aria-hidden />}
                onClick={() => onMove(index, index + 1)}
              />
              <Button
                size="small"
                type="text"
                aria-label={`Delete ${sheet.name}`}
                icon={<Trash2 size={14} aria-hidden />}
                onClick={() => onRemove(index)}
              />
            </span>
          )}
        </li>
      ))}
    </ol>
  );
}

const scalesOf = ({ frames }: PaperSheetDto): string =>
  [...new Set(frames.map(({ view }) => formatScale(view.denominator)))].join(', ') || 'empty';

/** How the paper lies, and where its views are. */
function PaperOutline({ sheet: { paper, frames } }: { readonly sheet: PaperSheetDto }): ReactElement {
  return (
    <svg className="paper-outline" viewBox={`0 0 ${paper.widthMm} ${paper.heightMm}`} aria-hidden>
      <rect width={paper.widthMm} height={paper.heightMm} className="paper" />
      {frames.map(({ leftMm, topMm, widthMm, heightMm }, k) => (
        <rect key={k} x={leftMm} y={topMm} width={widthMm} height={heightMm} className="frame" />
      ))}
    </svg>
  );
}
