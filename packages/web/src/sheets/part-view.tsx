import type { ReactElement } from 'react';
import { inkOf, type PaperPoint, type SheetPart } from '@gull-pane/core/sheets/sheet-part';

const colourOf = ({ ink }: SheetPart): string => {
  const { r, g, b } = inkOf(ink);
  return `rgb(${r} ${g} ${b})`;
};

const pathOf = (ring: readonly PaperPoint[]): string => `M${ring.map((point) => point.join(' ')).join('L')}Z`;

/** Something that a sheet draws, as SVG in mm. */
export function PartView({ part }: { readonly part: SheetPart }): ReactElement | null {
  const ink = colourOf(part);
  const opacity = part.opacity ?? 1;
  if (part.kind === 'link') return null;
  if (part.kind === 'text') {
    const [x, y] = part.at;
    return (
      <text
        x={x}
        y={y}
        fontSize={part.sizeMm}
        fontWeight={part.weight === 'bold' ? 700 : 400}
        fill={ink}
        fillOpacity={opacity}
        {...(part.isUpright ? { transform: `rotate(-90 ${x} ${y})` } : {})}
      >
        {part.text}
      </text>
    );
  }
  if (part.kind === 'area')
    return <path d={part.rings.map(pathOf).join('')} fill={ink} fillOpacity={opacity} fillRule="evenodd" />;
  const pen = {
    points: part.points.map((point) => point.join(',')).join(' '),
    fill: 'none',
    stroke: ink,
    strokeOpacity: opacity,
    strokeWidth: part.widthMm,
    strokeDasharray: part.dashesMm.join(' '),
  };
  return part.isClosed ? <polygon {...pen} /> : <polyline {...pen} />;
}
