import { Segmented, Slider, Switch } from 'antd';
import type { ReactElement } from 'react';
import type { Parts } from '../actions/action';
import type { ComparisonState } from '../store/comparison-store';

/** How the two revisions lie over one another: faded or wiped from what was to what is. */
export function LaidOver({
  target,
  state: { isShown, fade, wipes },
}: {
  readonly target: Parts<'comparison'>;
  readonly state: ComparisonState;
}): ReactElement {
  const { set } = target.comparison.getState();
  return (
    <div className="changes-lay">
      <div className="changes-how">
        <label>
          <Switch
            size="small"
            checked={isShown}
            aria-label="Lay over the drawing"
            onChange={(checked) => set({ isShown: checked })}
          />
          Lay over
        </label>
        <Segmented
          size="small"
          aria-label="How they lie over one another"
          disabled={!isShown}
          value={wipes ? 'wipe' : 'fade'}
          options={[
            { value: 'fade', label: 'Fade' },
            { value: 'wipe', label: 'Wipe' },
          ]}
          onChange={(value) => set({ wipes: value === 'wipe' })}
        />
      </div>
      <div className="changes-fade">
        <span className={wipes ? 'changes-is' : 'changes-was'}>{wipes ? 'is' : 'was'}</span>
        <Slider
          ariaLabelForHandle={wipes ? 'Where the line is' : 'From the earlier to the later revision'}
          min={0}
          max={1}
          step={0.02}
          value={fade}
          disabled={!isShown}
          tooltip={{ open: false }}
          onChange={(value) => set({ fade: value })}
        />
        <span className={wipes ? 'changes-was' : 'changes-is'}>{wipes ? 'was' : 'is'}</span>
      </div>
    </div>
  );
}
