import { Bookmark, Layers, ListTree, MousePointerClick, Scissors } from 'lucide-react';
import { useEffect, useState, type ReactElement } from 'react';
import { api } from '../api/client';
import { sameView } from '@gull-pane/core/camera/camera';
import { scaleLimitsFor } from '@gull-pane/core/camera/limits';
import type { ClipVolume } from '@gull-pane/core/clip/clip-volume';
import { emptyBox } from '@gull-pane/core/geometry/box';
import { supportOfVisible } from '@gull-pane/core/spatial/support';
import type { ActionTarget } from '../actions/action';
import { useActionKeys } from '../actions/use-action-keys';
import { HelpButtons } from '../bar/help-buttons';
import { DrawingSwitcher } from '../bar/drawing-switcher';
import { TopBar } from '../bar/top-bar';
import { HandsPanel } from '../help/hands-panel';
import { KeysSheet } from '../help/keys-sheet';
import { FindClient, startFindWorker } from '../find/find-client';
import { FindField } from '../find/find-field';
import { middleOfBoxes } from '@gull-pane/core/geometry/box';
import type { Vec3 } from '@gull-pane/core/geometry/vec';
import { PickClient } from '../picking/pick-client';
import type { Answers } from '../picking/pick-questions';
import { SolidAnswers } from '../picking/solid-answers';
import type { Surface } from '../render/scene';
import { startPickWorker } from '../picking/start-pick-worker';
import { PaneHands } from '../input/pane-hands';
import { gamepadSource } from '../input/gamepad-source';
import { attachStanceKeys } from '../input/stance-keys';
import { reportDrawing } from '../inspect/inspection';
import { Pane } from '../panes/pane';
import { StatusLine } from '../panes/status-line';
import { ClipsPanel } from '../shelf/clips-panel';
import { LayersPanel } from '../shelf/layers-panel';
import { ViewsPanel } from '../shelf/views-panel';
import { TreePanel } from '../shelf/tree-panel';
import { PickedPanel } from '../shelf/picked-panel';
import { Shelf } from '../shelf/shelf';
import { createDrawingStore, type DrawingContent, type DrawingStore } from '../store/drawing-store';
import { createFindStore } from '../store/find-store';
import { createPickStore } from '../store/pick-store';
import { MOST_CLIPS } from '../render/solid-materials';
import { createGroundPlanStore } from '../store/ground-plan-store';
import { createCardsStore } from '../store/cards-store';
import { viewName } from '../store/view-name';
import { createClipsStore } from '../store/clips-store';
import { attachSixAxis, createSixAxisStore } from '../store/six-axis-store';
import { createStanceStore } from '../store/stance-store';
import { createPaneStore, type SolidSurroundings } from '../store/pane-store';
import { usePreferences } from '../store/preferences-store';
import { createToolStore } from '../store/tool-store';
import { createSightStore } from '../store/sight-store';
import { createUiStore } from '../store/ui-store';
import { readViewAddress } from '../store/view-address';
import { keepTrail, trailFromDto } from '../store/keep-trail';
import { keepAddress } from '../store/keep-address';
import type { ThumbnailMaker } from '../trail/thumbnail-maker';
import { TrailStrip } from '../trail/trail-strip';
import { ToolRail } from '../tools/tool-rail';
import { Notes } from './notes';
import './workspace.css';

/** An open drawing: shelf, tools, pane, and the line that says what comes next. */
export function Workspace({ content }: { readonly content: DrawingContent }): ReactElement {
  const [{ target, open }] = useState(() => createTarget(content));
  const [hands] = useState(() => new PaneHands(target));
  const { drawing, pane } = target;
  const isRailOpen = usePreferences((state) => state.isRailOpen);
  useActionKeys(target, hands);
  useEffect(() => {
    document.title = `${content.drawing.name} · Gull Pane`;
  }, [content]);
  useEffect(open, [open]);
  useEffect(() => void target.groundPlan.getState().look(), [target]);
  useEffect(() => void target.cards.getState().load(), [target]);
  useEffect(() => attachStanceKeys(target.stance), [target]);
  useEffect(() => attachSixAxis(target.sixAxis, gamepadSource), [target]);
  const [maker, setMaker] = useState<ThumbnailMaker | null>(null);
  // what was closed gives its keys back to the pane
  useEffect(
    () =>
      target.ui.subscribe(({ panel, menuAt }, before) => {
        const hasClosed = (panel === null && before.panel !== null) || (menuAt === null && before.menuAt !== null);
        if (hasClosed) document.querySelector<HTMLElement>('.pane-surface')?.focus({ preventScroll: true });
      }),
    [target],
  );
  useEffect(() => keepAddress(pane, drawing), [pane, drawing]);
  useEffect(() => keepTrail(pane, (trail) => api.keepTrail(drawing.getState().drawing.id, trail)), [pane, drawing]);
  useEffect(
    () =>
      reportDrawing(() => {
        const { drawing: shown, layers, hidden } = drawing.getState();
        const told = layers.map(({ id, name }) => ({ id, name, visible: !hidden.has(id) }));
        return { id: shown.id, extents: shown.extents, layers: told };
      }),
    [drawing],
  );
  return (
    <div className="workspace">
      <TopBar>
        <DrawingSwitcher drawing={content.drawing} />
        <FindField target={target} />
        <HelpButtons target={target} />
      </TopBar>
      <div className="work-area">
        <Shelf
          panels={[
            {
              id: 'layers',
              name: 'Layers',
              icon: Layers,
              content: <LayersPanel drawing={drawing} groundPlan={target.groundPlan} />,
            },
            { id: 'views', name: 'Views', icon: Bookmark, content: <ViewsPanel target={target} /> },
            { id: 'picked', name: 'Picked', icon: MousePointerClick, content: <PickedPanel target={target} /> },
            ...(content.solid
              ? [
                  {
                    id: 'tree',
                    name: 'Tree',
                    icon: ListTree,
                    content: <TreePanel target={target} solid={content.solid} />,
                  },
                  { id: 'clips', name: 'Clips', icon: Scissors, content: <ClipsPanel target={target} /> },
                ]
              : []),
          ]}
        />
        {isRailOpen && <ToolRail target={target} />}
        <main className="panes">
          <h1 className="unseen">{content.drawing.name}</h1>
          <Pane target={target} hands={hands} onMaker={setMaker} />
        </main>
      </div>
      <TrailStrip target={target} maker={maker} />
      <StatusLine target={target} />
      <KeysSheet target={target} />
      <HandsPanel target={target} />
      <Notes />
    </div>
  );
}

function createTarget(content: DrawingContent): { readonly target: ActionTarget; readonly open: () => () => void } {
  const address = readViewAddress(new URLSearchParams(location.search));
  const drawing = createDrawingStore(content, address.hidden);
  const trail = trailFromDto(content.trail);
  const last = trail?.entries[trail.current]?.camera;
  // an address tells the direction in degrees: of the same view the trail knows all digits
  const initial = last && address.camera && sameView(last, address.camera) ? last : address.camera;
  /** What the pane draws, once it does. */
  const seen: { surface: Surface | null; picture: (() => string) | null } = { surface: null, picture: null };
  const { solid } = content;
  let clipped: readonly ClipVolume[] = [];
  const middleOfPicked = (): Vec3 | null => {
    const { picked } = picks.getState();
    return solid && picked.size > 0 ? middleOfBoxes(solid.boxes, picked) : null;
  };
  const surroundings: SolidSurroundings = {
    surfaceAt: (camera, viewport, at) => seen.surface?.hit(camera, viewport, at)?.point ?? null,
    middleOfPicked,
  };
  const pane = createPaneStore('1', {
    limits: scaleLimitsFor(content.drawing.extents ?? emptyBox),
    support: () => supportOf(drawing),
    now: () => performance.now(),
    prefersStill: () => matchMedia('(prefers-reduced-motion: reduce)').matches,
    glides: () => usePreferences.getState().glides,
    ...(solid ? { solid: surroundings } : {}),
    ...(initial ? { initial } : {}),
    ...(trail ? { trail } : {}),
  });
  const { id, revision } = content.drawing;
  const files = `/api/drawings/${id}/tiles/r${revision}/`;
  const asked: Answers = solid
    ? new SolidAnswers(solid, {
        view: () => pane.getState(),
        surface: () => seen.surface,
        shown: () => {
          const { hidden, hiddenObjects } = drawing.getState();
          return { hiddenLayers: hidden, mask: hiddenObjects, clips: clipped };
        },
      })
    : new PickClient(files, startPickWorker);
  asked.hide([...drawing.getState().hidden], null);
  /** Fits look at what is shown: its hull has to be asked for where that isn't whole layers. */
  const lookAgain = (): void => {
    const isPart = drawing.getState().hiddenObjects !== null || clipped.some(({ isOn }) => isOn);
    if (isPart) asked.askLatest('shown', null, (shownSupport) => drawing.setState({ shownSupport }));
    else if (drawing.getState().shownSupport) drawing.setState({ shownSupport: null });
  };
  drawing.subscribe(({ hidden, hiddenObjects }, before) => {
    if (hidden === before.hidden && hiddenObjects === before.hiddenObjects) return;
    asked.hide([...hidden], hiddenObjects?.bytes ?? null);
    lookAgain();
  });
  const picks = createPickStore(asked, pane);
  const { sight, watch } = createSightStore(pane, drawing, picks, asked);
  const found = new FindClient(`${files}texts.json`, startFindWorker);
  const finds = createFindStore(found, pane, drawing, picks);
  const tools = createToolStore();
  const groundPlan = createGroundPlanStore(content.drawing);
  const clips = createClipsStore({
    picked: () => [...(seen.surface?.cornersOf(picks.getState().picked) ?? [])],
    all: () => supportOf(drawing),
    faceAt: (at) => seen.surface?.hit(pane.getState().camera, pane.getState().viewport, at) ?? null,
    cornersOf: (object) => seen.surface?.cornersOf(new Set([object])) ?? [],
    most: MOST_CLIPS,
  });
  // fits and the way back look at what the clips leave
  clips.subscribe(({ volumes }, before) => {
    if (volumes === before.volumes) return;
    clipped = volumes;
    lookAgain();
  });
  const cards = createCardsStore({
    ...{ pane, drawing, clips, picture: () => seen.picture?.() ?? '' },
    suggestName: async () => {
      const { camera, viewport } = pane.getState();
      const middle = { x: viewport.widthPx / 2, y: viewport.heightPx / 2 };
      const object = seen.surface?.hit(camera, viewport, middle)?.object;
      const what = solid
        ? object === undefined
          ? null
          : (solid.names[object] ?? null)
        : await found.nearestText(camera.target, camera.unitsPerPx * Math.min(middle.x, middle.y));
      return viewName(content.drawing.kind, camera, usePreferences.getState().mmPerPx, what);
    },
  });
  const stance = createStanceStore({ pane, tools, world: () => seen.surface });
  const target = {
    drawing,
    pane,
    tools,
    stance,
    clips,
    cards,
    groundPlan,
    sixAxis: createSixAxisStore(pane),
    ui: createUiStore(),
    picks,
    asked,
    sight,
    finds,
    seen,
  };
  const open = (): (() => void) => {
    const stop = watch();
    return () => {
      stop();
      asked.close();
      found.close();
    };
  };
  return { target, open };
}

/** The points that a fit looks at: those of the visible layers, or of all where none of them has any. */
function supportOf(drawing: DrawingStore): ArrayLike<number> {
  const { layers, hidden, shownSupport } = drawing.getState();
  if (shownSupport && shownSupport.length > 0) return shownSupport;
  const supports = layers.map(({ id, support }) => ({ layer: id, points: support }));
  const visible = supportOfVisible(supports, (layer) => !hidden.has(layer));
  return visible.length > 0 ? visible : supportOfVisible(supports, () => true);
}
