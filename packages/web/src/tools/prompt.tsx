import type { ReactElement } from 'react';
import { useStore } from 'zustand';
import type { ActionTarget } from '../actions/action';
import { toolInHand } from '../store/tool-store';
import { toolUnits } from './tool-units';

/** What is expected next and which keys help, in one sentence, in every state. */
export function Prompt({ target }: { readonly target: ActionTarget }): ReactElement {
  const { tools, pane } = target;
  const inHand = useStore(tools, toolInHand);
  const borrowed = useStore(tools, (state) => state.borrowed);
  const isScrubbing = useStore(pane, (state) => state.scrubAt !== null);
  if (isScrubbing) return <>Drag along the trail; let go at the view you want.</>;
  if (borrowed !== null && borrowed !== 'lens') return <Borrowed act={borrowed} isWorking={inHand !== null} />;
  const { Prompt: OwnPrompt } = toolUnits[inHand ?? 'pick'];
  return <OwnPrompt target={target} />;
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
