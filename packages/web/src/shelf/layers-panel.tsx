import { useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { colourFromHex, colourToHex, inkOnGround } from '@gull-pane/core/drawing/colour';
import { withLayers } from '@gull-pane/core/view/shown';
import type { LayerDto } from '@gull-pane/protocol/drawings';
import type { ActionTarget } from '../actions/action';
import { grouped } from '../basics/figures';
import { later, laterWhen } from '../controls/later';
import { usePreferences } from '../store/preferences-store';
import type { GroundPlanStore } from '../store/ground-plan-store';
import { groundOf } from '../theme/themes';

const GroundPlanChoice = laterWhen(
  async () => (await import('./ground-plan-choice')).GroundPlanChoice,
  ({ groundPlan }: { readonly groundPlan: GroundPlanStore }) =>
    useStore(groundPlan, ({ offers }) => offers !== null && offers.length > 0),
);

/** Longer lists have only the rows in sight: their code comes when there is one. */
const MOST_PLAIN = 150;
/** How high a row is before it was measured, CSS px. */
const ROW_PX = 24;
const LayerList = later(async () => (await import('../controls/long-list')).LongList<LayerDto>);

/** The layers of the drawing: found by name, shown and hidden one by one or all that are found. */
export function LayersPanel({
  drawing,
  pane,
  groundPlan,
}: Pick<ActionTarget, 'drawing' | 'pane' | 'groundPlan'>): ReactElement {
  const layers = useStore(drawing, (state) => state.layers);
  const hidden = useStore(pane, ({ shown }) => shown.hiddenLayers);
  const setVisible = (layers: readonly number[], areShown: boolean): void =>
    pane.getState().update((before) => withLayers(before, layers, areShown), 'layers');
  const [sought, setSought] = useState('');
  const found = layers.filter(({ name }) => name.toLowerCase().includes(sought.trim().toLowerCase()));
  const ids = found.map(({ id }) => id);
  const shown = ids.filter((id) => !hidden.has(id)).length;
  const row = (layer: LayerDto): ReactElement => (
    <LayerRow layer={layer} isShown={!hidden.has(layer.id)} onChange={(isShown) => setVisible([layer.id], isShown)} />
  );
  return (
    <div className="layers">
      <input
        type="search"
        className="layers-search"
        aria-label="Search the layers"
        placeholder={layers.length === 1 ? 'Search 1 layer' : `Search ${grouped(layers.length)} layers`}
        value={sought}
        onChange={(event) => setSought(event.target.value)}
      />
      <div className="layers-all">
        <button
          type="button"
          className="small-button"
          disabled={shown === ids.length}
          onClick={() => setVisible(ids, true)}
        >
          {sought.trim() === '' ? 'All layers on' : 'All found on'}
        </button>
        <button type="button" className="small-button" disabled={shown === 0} onClick={() => setVisible(ids, false)}>
          {sought.trim() === '' ? 'All off' : 'Found off'}
        </button>
        <span className="muted" role="status">
          {grouped(shown)} of {grouped(ids.length)} on
        </span>
      </div>
      {found.length > MOST_PLAIN ? (
        <LayerList label="Layers" rows={found} keyOf={({ id }) => id} guessPx={() => ROW_PX}>
          {row}
        </LayerList>
      ) : (
        <ul aria-label="Layers">
          {found.map((layer) => (
            <li key={layer.id}>{row(layer)}</li>
          ))}
        </ul>
      )}
      <GroundPlanChoice groundPlan={groundPlan} />
      {found.length === 0 && <p className="muted">No layer’s name has “{sought.trim()}” in it.</p>}
    </div>
  );
}

interface LayerRowProps {
  readonly layer: LayerDto;
  readonly isShown: boolean;
  onChange(isShown: boolean): void;
}

function LayerRow({ layer, isShown, onChange }: LayerRowProps): ReactElement {
  const theme = usePreferences((preferences) => preferences.theme);
  const colour = colourToHex(inkOnGround(colourFromHex(layer.colour), groundOf(theme)));
  return (
    <label className="layer-row">
      <input type="checkbox" checked={isShown} onChange={(event) => onChange(event.target.checked)} />
      <span className="layer-colour" style={{ background: colour }} aria-hidden />
      <span className="layer-name" title={layer.name}>
        {layer.name}
      </span>
      <span className="layer-count figures muted" title={`${grouped(layer.objects)} objects`}>
        {grouped(layer.objects)}
      </span>
    </label>
  );
}
