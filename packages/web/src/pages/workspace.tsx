import {
  Bookmark,
  Diff,
  Layers,
  LayoutGrid,
  ListTree,
  MousePointerClick,
  PencilLine,
  ScanEye,
  Scissors,
} from 'lucide-react';
import { useEffect, useRef, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { useNavigate } from 'react-router';
import { useActionKeys } from '../actions/use-action-keys';
import { panesOf } from '@gull-pane/core/panes/tiling';
import { isFormer } from '@gull-pane/protocol/drawings';
import type { ActionTarget, Parts } from '../actions/action';
import { api } from '../api/client';
import { DrawingSwitcher } from '../bar/drawing-switcher';
import { HelpButtons } from '../bar/help-buttons';
import { TopBar } from '../bar/top-bar';
import { FindField } from '../find/find-field';
import { gamepadSource } from '../input/gamepad-source';
import { attachKeyCursor } from '../input/key-cursor';
import type { PaneHands } from '../input/pane-hands';
import { attachStanceKeys } from '../input/stance-keys';
import { reportDrawing } from '../inspect/inspection';
import { PaneGrid } from '../panes/pane-grid';
import { StatusLine } from '../panes/status-line';
import type { ApartOpening } from '../session/apart';
import { hearChanges } from '../session/hear-changes';
import { focusActivePane } from '../input/focus-pane';
import { keepPlace } from '../session/keep-place';
import type { Session } from '../session/session';
import { startSession, type Opening } from '../session/start-session';
import { LayersPanel } from '../shelf/layers-panel';
import { Shelf, type ShelfPanel } from '../shelf/shelf';
import { keepTrail } from '../store/keep-trail';
import { usePreferences } from '../store/preferences-store';
import { attachSixAxis } from '../store/six-axis-store';
import { ToolRail } from '../tools/tool-rail';
import type { ThumbnailMaker } from '../trail/thumbnail-maker';
import { TrailStrip } from '../trail/trail-strip';
import {
  ChangesPanel,
  ClipsPanel,
  ConflictDialog,
  HandsPanel,
  KeysSheet,
  MarksPanel,
  Notes,
  PanesPanel,
  PickedPanel,
  Presentation,
  SeenPanel,
  SharePanel,
  TourBar,
  TreePanel,
  ViewsPanel,
  WarmUp,
} from './later-parts';
import './workspace.css';

/** What is open: shelf, tools, panes, and the line that says what comes next. All but the panes is for the active one. */
export function Workspace({ opening }: { readonly opening: Opening }): ReactElement {
  const [session] = useState(() => startSession(opening));
  const active = useStore(session.panes, (state) => state.active);
  useStore(session.panes, (state) => state.generation);
  const target = session.targetOf(active);
  const serial = session.serialOf(active);
  const { name } = useStore(target.drawing, (state) => state.drawing);
  const isRailOpen = usePreferences((state) => state.isRailOpen);
  const [maker, setMaker] = useState<ThumbnailMaker | null>(null);
  useActionKeys(target, session.handsOf(active));
  const { apart } = opening;
  const { hasTourBar, presenting } = useStore(target.ui);
  usePresentedPane(target, presenting !== null);
  useSession(session, apart);
  useActivePane(target, session.handsOf(active));
  useEffect(() => {
    document.title = `${name} · Gull Pane`;
  }, [name]);
  return (
    <div className="workspace" data-presenting={presenting === 'tour'}>
      <TopBar>
        <DrawingSwitcher session={session} target={target} />
        <FindField key={serial} target={target} />
        <HelpButtons target={target} />
      </TopBar>
      <div className="work-area">
        {!apart && <Shelf panels={panelsOf(session, target, serial)} />}
        {!apart && isRailOpen && <ToolRail target={target} />}
        <main className="panes">
          <h1 className="unseen">{name}</h1>
          <PaneGrid session={session} onMaker={setMaker} />
          {!apart && <WarmUp session={session} />}
        </main>
      </div>
      {!apart &&
        (hasTourBar ? (
          <TourBar key={serial} target={target} />
        ) : (
          <TrailStrip key={serial} target={target} maker={maker} />
        ))}
      <StatusLine target={target} />
      <KeysSheet target={target} />
      <HandsPanel target={target} />
      <ConflictDialog target={target} />
      <SharePanel session={session} target={target} />
      <Presentation target={target} />
      <ToSheets target={target} />
      <Notes />
    </div>
  );
}

/** Goes to the page of the drawing's sheets when that is asked for. */
function ToSheets({ target }: { readonly target: Parts<'ui' | 'drawing'> }): null {
  const navigate = useNavigate();
  const isAsked = useStore(target.ui, ({ panel }) => panel === 'sheets');
  useEffect(() => {
    if (!isAsked) return;
    target.ui.getState().set({ panel: null });
    void navigate(`/d/${target.drawing.getState().drawing.id}/sheets`);
  }, [isAsked, target, navigate]);
  return null;
}

/** @param serial another one for another pane, so that what is typed into one panel isn't taken for another's */
function panelsOf(session: Session, target: ActionTarget, serial: number): readonly ShelfPanel[] {
  const { solid, drawing } = target.drawing.getState();
  return [
    {
      id: 'layers',
      name: 'Layers',
      icon: Layers,
      content: <LayersPanel key={serial} {...target} />,
    },
    { id: 'views', name: 'Views', icon: Bookmark, content: <ViewsPanel key={serial} target={target} /> },
    { id: 'marks', name: 'Marks', icon: PencilLine, content: <MarksPanel key={serial} target={target} /> },
    { id: 'panes', name: 'Panes', icon: LayoutGrid, content: <PanesPanel session={session} target={target} /> },
    {
      id: 'picked',
      name: 'Picked',
      icon: MousePointerClick,
      content: <PickedPanel key={serial} target={target} />,
    },
    ...(solid
      ? [
          {
            id: 'tree',
            name: 'Tree',
            icon: ListTree,
            content: <TreePanel key={serial} target={target} solid={solid} />,
          },
          { id: 'clips', name: 'Clips', icon: Scissors, content: <ClipsPanel key={serial} target={target} /> },
        ]
      : []),
    { id: 'seen', name: 'Seen', icon: ScanEye, content: <SeenPanel key={serial} target={target} /> },
    ...(drawing.revision > 1 || isFormer(drawing.id)
      ? [{ id: 'changes', name: 'Changes', icon: Diff, content: <ChangesPanel key={serial} target={target} /> }]
      : []),
  ];
}

/** What lasts as long as the page. */
function useSession(session: Session, apart: ApartOpening | null): void {
  const closing = useRef<number | undefined>(undefined);
  useEffect(() => {
    // a development build mounts everything twice
    window.clearTimeout(closing.current);
    return () => {
      closing.current = window.setTimeout(session.close);
    };
  }, [session]);
  useEffect(() => {
    if (apart) return apart.stayInStep(session.targetOf('1'));
    return keepPlace(session);
  }, [session, apart]);
  useEffect(() => hearChanges(session), [session]);
  useEffect(() => {
    const { ui } = session.targetOf(session.panes.getState().active);
    // what was closed gives its keys back to the pane
    return ui.subscribe(({ panel, menuAt }, before) => {
      const hasClosed = (panel === null && before.panel !== null) || (menuAt === null && before.menuAt !== null);
      if (hasClosed) focusActivePane();
    });
  }, [session]);
}

/** While a tour is presented, its pane has all room; the others come back after it just as they were. */
function usePresentedPane({ panes, pane }: Parts<'pane' | 'panes'>, isPresenting: boolean): void {
  useEffect(() => {
    const own = panes.getState();
    const { id } = pane.getState();
    if (!isPresenting || own.filled === id || panesOf(own.tiling).length < 2) return undefined;
    own.fill(id);
    return () => {
      if (panes.getState().filled === id) panes.getState().fill(id);
    };
  }, [panes, pane, isPresenting]);
}

/** What is of the active pane, while it is. */
function useActivePane(
  { pane, drawing, stance, sixAxis, ui }: Parts<'pane' | 'drawing' | 'sixAxis' | 'stance' | 'ui'>,
  hands: PaneHands,
): void {
  useEffect(() => attachKeyCursor({ pane, ui, stance }, hands), [pane, ui, stance, hands]);
  useEffect(() => attachStanceKeys(stance), [stance]);
  useEffect(() => attachSixAxis(sixAxis, gamepadSource), [sixAxis]);
  useEffect(
    () =>
      keepTrail(pane, drawing, async (trail) => {
        const { id } = drawing.getState().drawing;
        if (!isFormer(id)) await api.keepTrail(id, trail);
      }),
    [pane, drawing],
  );
  useEffect(
    () =>
      reportDrawing(() => {
        const { drawing: shown, layers } = drawing.getState();
        const hidden = pane.getState().shown.hiddenLayers;
        const told = layers.map(({ id, name }) => ({ id, name, visible: !hidden.has(id) }));
        return { id: shown.id, extents: shown.extents, layers: told };
      }),
    [drawing, pane],
  );
}
