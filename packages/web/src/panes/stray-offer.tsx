import { Button, Popover } from 'antd';
import { X } from 'lucide-react';
import { Suspense, lazy, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { Parts } from '../actions/action';
import { grouped, lengthText } from '../basics/figures';
import { strayOffer } from '../store/sight-store';

const StrayChart = lazy(() => import('./stray-chart'));

/** Says that a few far objects make everything tiny, and what can be done about it. */
export function StrayOffer({ target }: { readonly target: Parts<'pane' | 'drawing' | 'sight'> }): ReactElement | null {
  const { sight, drawing } = target;
  const { strays, isOfferClosed, visited } = useStore(sight);
  const { extents, unit } = useStore(drawing, (state) => state.drawing);
  const viewport = useStore(target.pane, (state) => state.viewport);
  const report = strayOffer(strays, extents, viewport);
  if (!report || isOfferClosed) return null;
  const count = report.strays.length;
  const far = (length: number): string =>
    unit === 'none' ? grouped(Number(length.toPrecision(2))) : lengthText(Number(length.toPrecision(2)), unit);
  const { fitWithoutStrays, visitStray, hideStrays, closeOffer } = sight.getState();
  return (
    <div className="stray-offer" role="group" aria-label="Strays">
      <span>
        {count === 1 ? '1 object lies' : `${grouped(count)} objects lie`} {far(report.farthest)} away from the rest.
      </span>
      <Button size="small" onClick={fitWithoutStrays}>
        Fit without {count === 1 ? 'it' : 'them'}
      </Button>
      <Button size="small" onClick={visitStray}>
        {count === 1 ? 'Visit it' : visited < 0 ? 'Visit them' : `Visit the next, ${visited + 1} of ${count} seen`}
      </Button>
      <Button size="small" onClick={hideStrays}>
        Hide {count === 1 ? 'it' : 'them'}
      </Button>
      <Popover
        trigger="click"
        placement="top"
        destroyOnHidden
        content={
          <Suspense fallback={<p>Drawing the chart …</p>}>
            <StrayChart report={report} far={far} />
          </Suspense>
        }
      >
        <Button size="small">Show distances</Button>
      </Popover>
      <button type="button" className="icon-button" aria-label="Put the offer away" onClick={closeOffer}>
        <X size={16} aria-hidden />
      </button>
    </div>
  );
}
