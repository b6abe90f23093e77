import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import { partsOf, type Bindings, type Input } from '@gull-pane/core/intent/inputs';
import type { ActionTarget } from '../actions/action';
import { KeyCaps } from '../actions/action-tip';
import { shownKey, useBindings } from '../actions/bindings';
import { BoxTakesChoice, CollectPrompt, RatioInput } from './later-parts';
import { toolInHand, type ToolStore } from '../store/tool-store';

/** What is expected next and which keys help, in one sentence, in every state. */
export function Prompt({ target }: { readonly target: ActionTarget }): ReactElement {
  const { tools, pane } = target;
  const inHand = useStore(tools, toolInHand);
  const borrowed = useStore(tools, (state) => state.borrowed);
  const interrupted = useStore(tools, ({ interrupting, working }) => (interrupting ? working : null));
  const isScrubbing = useStore(pane, (state) => state.scrubAt !== null);
  if (isScrubbing) return <>Drag along the trail; let go at the view you want.</>;
  if (borrowed !== null && borrowed !== 'lens') return <Borrowed act={borrowed} isWorking={inHand !== null} />;
  switch (inHand) {
    case 'frame':
      return <FramePrompt tools={tools} isInterrupting={interrupted !== null} />;
    case 'lens':
      return <LensPrompt tools={tools} />;
    case 'level':
      return <LevelPrompt tools={tools} />;
    case 'orbit':
      return (
        <>
          Drag turns the model about what you grab; the wheel zooms. <KeyCaps keyName="Escape" /> puts the tool away.
        </>
      );
    case 'section':
      return <FacePrompt does="cuts away everything before it" />;
    case 'faceBox':
      return <FacePrompt does="lays a clip box along it" />;
    case 'stand':
      return <StandPrompt target={target} />;
    case 'collect':
      return <CollectPrompt target={target} />;
    case null:
      return <PickPrompt target={target} />;
  }
}

const FacePrompt = ({ does }: { readonly does: string }): ReactElement => (
  <>
    Click a face of the model: it {does}. <KeyCaps keyName="Escape" /> puts the tool away.
  </>
);

function StandPrompt({ target }: { readonly target: ActionTarget }): ReactElement {
  const isStanding = useStore(target.stance, (state) => state.walker !== null);
  const dragDoes = useStore(target.stance, (state) => state.dragDoes);
  if (!isStanding)
    return (
      <>
        Click the floor where you want to stand. <KeyCaps keyName="Escape" /> puts the tool away.
      </>
    );
  return (
    <>
      Drag {dragDoes === 'look' ? 'looks about, with Shift it leads you' : 'leads you, with Shift it looks about'};
      arrows walk and turn; a click stands elsewhere; <KeyCaps keyName="Escape" /> goes back.
    </>
  );
}

const borrowedSentences: Readonly<Record<string, string>> = {
  pan: 'Drag to pan',
  zoom: 'Drag up for closer, down for farther',
  twist: 'Drag around the middle to twist',
  orbit: 'Drag turns a model about what you grab; a plan is panned',
};

const Borrowed = ({ act, isWorking }: { readonly act: string; readonly isWorking: boolean }): ReactElement => (
  <>
    {borrowedSentences[act] ?? 'Drag'}; let the key go and {isWorking ? 'the tool goes on.' : 'all is as it was.'}
  </>
);

function FramePrompt({
  tools,
  isInterrupting,
}: {
  readonly tools: ToolStore;
  readonly isInterrupting: boolean;
}): ReactElement {
  const hasCorner = useStore(tools, ({ states }) => states.frame.corner !== null);
  return hasCorner ? (
    <>
      Click the opposite corner; the wheel still zooms, the edge moves the view. <KeyCaps keyName="Escape" /> takes the
      first corner back.
    </>
  ) : (
    <>
      Click a corner of the area, or drag across it. <KeyCaps keyName="Escape" />{' '}
      {isInterrupting ? 'goes back to the tool.' : 'leaves.'}
    </>
  );
}

function LensPrompt({ tools }: { readonly tools: ToolStore }): ReactElement {
  return (
    <>
      Click to go where the lens looks; the wheel changes how much it enlarges:
      <RatioInput tools={tools} />
      <KeyCaps keyName="Escape" /> leaves.
    </>
  );
}

function LevelPrompt({ tools }: { readonly tools: ToolStore }): ReactElement {
  const hasPoint = useStore(tools, ({ states }) => states.level.from !== null);
  return hasPoint ? (
    <>
      Click a second point of the line. <KeyCaps keyName="Escape" /> takes the first one back.
    </>
  ) : (
    <>
      Click a point of the line that shall lie level. <KeyCaps keyName="Escape" /> leaves.
    </>
  );
}

/** Picking is what the left button does while no tool is in hand. */
function PickPrompt({ target }: { readonly target: ActionTarget }): ReactElement {
  const { picks, tools, marks } = target;
  const chosen = useStore(marks, (state) => state.chosen.size);
  const hasBox = useStore(tools, ({ states }) => states.pick.to !== null);
  const picked = useStore(picks, (state) => state.picked.size);
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
  return <Idle />;
}

/** How the view is moved, in the words of the habits in use. */
function Idle(): ReactElement {
  const bindings = useBindings();
  const frame = shownKey(bindings['frame-corners'] ?? []);
  const fit = shownKey(bindings['fit-all'] ?? []);
  const keys = shownKey(bindings.keys ?? []);
  return (
    <>
      {sentence('zooms', bindings, 'zoom')}
      {sentence('pans', bindings, 'pan')}
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
          <KeyCaps keyName={keys} /> tells all.
        </>
      )}
    </>
  );
}

function sentence(verb: string, bindings: Bindings, act: string): ReactElement | null {
  const [first] = bindings[act] ?? [];
  if (first === undefined) return null;
  return (
    <>
      <InputText input={first} isFirst={act === 'zoom'} /> {verb},{' '}
    </>
  );
}

/** An input as a person reads it: caps for keys, words for hands. */
export function InputText({
  input,
  isFirst = false,
}: {
  readonly input: Input;
  readonly isFirst?: boolean;
}): ReactElement {
  const { words } = partsOf(input);
  const told = isFirst ? words.charAt(0).toUpperCase() + words.slice(1) : words;
  return (
    <span className="input-text">
      <KeyCaps keyName={input} />
      {told !== '' && ` ${told}`}
    </span>
  );
}
