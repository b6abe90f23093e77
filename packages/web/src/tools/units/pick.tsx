import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { canGoBack } from '@gull-pane/core/trail/trail';
import type { Bindings } from '@gull-pane/core/intent/inputs';
import { KeyCaps } from '../../actions/action-tip';
import { shownKey, useBindings } from '../../actions/bindings';
import { framePickedAction } from '../../actions/pick-actions';
import { backAction, fitAllAction } from '../../actions/view-actions';
import { useMedia } from '../../controls/use-media';
import { InputText } from '../input-text';
import { BoxTakesChoice } from '../later-parts';
import { PickOverlay } from '../pick-overlay';
import { byAction, type ToolUnit, type UnitProps } from '../unit';

/** Picking is what the left button does while no tool is in hand. */
function Prompt({ target }: UnitProps): ReactElement {
  const { picks, tools, marks } = target;
  const chosen = useStore(marks, (state) => state.chosen.size);
  const hasBox = useStore(tools, ({ states }) => states.pick.to !== null);
  const picked = useStore(target.picked, (state) => state.picked.size);
  const waits = useStore(picks, (state) => state.framesNext);
  const bindings = useBindings();
  const keyOf = (id: string): ReactElement | null => {
    const key = shownKey(bindings[id] ?? []);
    return key === undefined ? null : <KeyCaps keyName={key} />;
  };
  if (chosen > 0 && !hasBox)
    return (
      <>
        {chosen === 1 ? 'A mark is chosen' : `${chosen} marks are chosen`}: drag its grips, or take <em>Move marks</em>{' '}
        and the like from <em>Marks</em>. <KeyCaps keyName="Delete" /> deletes, <KeyCaps keyName="Escape" /> lets go.
      </>
    );
  if (hasBox || waits || picked > 0) {
    return (
      <>
        {waits && 'Click an object or drag a box: it fills the pane. '}
        {!waits && !hasBox && (
          <>
            {keyOf('frame-picked')} frames what is picked, <KeyCaps keyName="Shift" /> adds or takes away,{' '}
            <KeyCaps keyName="Escape" /> clears.{' '}
          </>
        )}
        A box takes
        <BoxTakesChoice picks={picks} />
        {keyOf('box-takes')}
      </>
    );
  }
  return <Idle target={target} />;
}

/** How the view is moved, in the words of the habits in use. */
function Idle({ target }: UnitProps): ReactElement {
  const bindings = useBindings();
  if (useMedia('(pointer: coarse)'))
    return target.drawing.getState().solid ? (
      <>Drag to pan, drag with two fingers to turn, pinch to zoom; tap to pick.</>
    ) : (
      <>Drag to pan, pinch to zoom, turn two fingers to twist; tap to pick.</>
    );
  const frame = shownKey(bindings['frame-corners'] ?? []);
  const fit = shownKey(bindings['fit-all'] ?? []);
  const keys = shownKey(bindings.keys ?? []);
  return (
    <>
      {sentence('to zoom', bindings, 'zoom')}
      {sentence('to pan', bindings, 'pan')}
      {frame !== undefined && (
        <>
          <KeyCaps keyName={frame} /> frames corners,{' '}
        </>
      )}
      {fit !== undefined && (
        <>
          <KeyCaps keyName={fit} /> fits all,{' '}
        </>
      )}
      {keys !== undefined && (
        <>
          <KeyCaps keyName={keys} /> shows all keys.
        </>
      )}
    </>
  );
}

function sentence(purpose: string, bindings: Bindings, act: string): ReactElement | null {
  const [first] = bindings[act] ?? [];
  if (first === undefined) return null;
  return (
    <>
      <InputText input={first} isFirst={act === 'zoom'} /> {purpose},{' '}
    </>
  );
}

export const pickUnit: ToolUnit = {
  Prompt,
  Overlay: PickOverlay,
  nextAct(target) {
    if (target.picked.getState().picked.size > 0) return byAction(target, framePickedAction);
    return byAction(target, canGoBack(target.pane.getState().trail) ? backAction : fitAllAction);
  },
};
