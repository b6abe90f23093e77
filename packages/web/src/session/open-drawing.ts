import type { Scene } from '../render/scene/scene';
import { makeScene } from '../render/painters';
import { FindClient, startFindWorker } from '../finding/find-client';
import { PickLine } from '../picking/pick-client';
import { startPickWorker } from '../picking/start-pick-worker';
import { createCardsStore, type CardsStore, type KeepingPane } from '../store/cards-store';
import { ExactFeatures } from '../snapping/exact-features';
import { startFeaturesWorker } from '../snapping/start-features-worker';
import { createComparisonStore, type ComparisonStore } from '../store/comparison-store';
import { createCoverageStore, type CoverageStore } from '../store/coverage-store';
import { createDrawingStore, type DrawingContent, type DrawingStore } from '../store/drawing-store';
import { usePreferences } from '../store/preferences-store';
import { createMarksStore, type MarksStore } from '../store/marks-store';
import { createPickedStore, type PickedStore } from '../store/picked-store';
import { createToursStore, type ToursStore } from '../store/tours-store';
import { SmallPictures } from '../store/small-pictures';
import { groundOf } from '../theme/themes';

/** A drawing that is open in one pane or several: what they share of it. */
export interface OpenDrawing {
  readonly content: DrawingContent;
  readonly drawing: DrawingStore;
  readonly cards: CardsStore;
  readonly tours: ToursStore;
  /** What is drawn on top of it. */
  readonly marks: MarksStore;
  readonly picked: PickedStore;
  /** Of a model: the exact corners of its objects. */
  readonly features: ExactFeatures;
  readonly found: FindClient;
  /** What differs from a former revision. */
  readonly comparison: ComparisonStore;
  readonly coverage: CoverageStore;
  /** Small pictures of its views. */
  readonly pictures: SmallPictures;
  /** Of flat drawings. */
  readonly picking: PickLine;
  /** The same for what may take long: it is ended when it is called off. */
  readonly searching: PickLine;
  /** Its tiles and what the graphics processor holds of them, from the first pane that asks to the last that leaves. */
  readonly enterScene: (pane: string) => Scene;
  readonly leaveScene: (pane: string) => void;
  readonly close: () => void;
}

/** @param shown the pane of this drawing that was active last */
export function openDrawing(content: DrawingContent, shown: () => KeepingPane): OpenDrawing {
  const { id, revision } = content.drawing;
  const files = `/api/drawings/${id}/tiles/r${revision}/`;
  const found = new FindClient(`${files}texts.json`, startFindWorker);
  const picking = new PickLine(files, startPickWorker);
  const searching = new PickLine(files, startPickWorker);
  const features = new ExactFeatures((object) => `/api/drawings/${id}/objects/${object}`, startFeaturesWorker);
  const pictures = new SmallPictures();
  let scene: Scene | null = null;
  const inside = new Set<string>();
  return {
    content,
    drawing: createDrawingStore(content),
    cards: createCardsStore(id, shown),
    tours: createToursStore(id),
    marks: createMarksStore(id),
    picked: createPickedStore(),
    comparison: createComparisonStore(id),
    coverage: createCoverageStore(id, content.drawing.sheets),
    features,
    found,
    pictures,
    picking,
    searching,
    enterScene(pane) {
      inside.add(pane);
      return (scene ??= makeScene(content, groundOf(usePreferences.getState().theme)));
    },
    leaveScene(pane) {
      scene?.leave(pane);
      inside.delete(pane);
      if (inside.size > 0) return;
      scene?.dispose();
      scene = null;
    },
    close() {
      found.close();
      pictures.forget();
      picking.close();
      searching.close();
      features.close();
    },
  };
}
