import type { DrawingDto } from '@gull-pane/protocol/drawings';
import type { ActionTarget } from '../actions/action';
import type { DrawingContent } from '../store/drawing-store';
import { troubleOf } from '../store/drawings-store';
import { useNotes } from '../store/notes-store';
import { fetchContent } from './fetch-content';
import { openDrawing, type OpenDrawing } from './open-drawing';
import { contentOf, suggestedName } from './pane-target';

/** The drawings of a window: what was fetched of them, and those that panes show, each once. */
export class OpenedDrawings {
  readonly #contents = new Map<string, DrawingContent>();
  readonly #opened = new Map<string, OpenDrawing>();
  /** Of each drawing the pane that was active last. */
  readonly #lastShown = new Map<string, string>();

  /** @param targetOf the pane that stands for a drawing, by its name; the active one if that is absent */
  constructor(private readonly targetOf: (pane: string | undefined) => ActionTarget) {}

  add(content: DrawingContent): void {
    this.#contents.set(content.drawing.id, content);
  }

  contentOf(id: string): DrawingContent | undefined {
    return this.#contents.get(id);
  }

  /** A drawing that a pane shows. */
  get(id: string): OpenDrawing | undefined {
    return this.#opened.get(id);
  }

  /** Gets what is needed to show a drawing; a note tells if it can't be loaded. */
  async fetched(id: string): Promise<DrawingContent | null> {
    const known = this.#contents.get(id);
    if (known) return known;
    try {
      const content = await fetchContent(id);
      this.add(content);
      return content;
    } catch (error) {
      useNotes.getState().tell('failed', `The drawing can’t be opened: ${troubleOf(error).title}`);
      return null;
    }
  }

  open(content: DrawingContent): OpenDrawing {
    const { id } = content.drawing;
    const known = this.#opened.get(id);
    if (known) return known;
    const own = openDrawing(content, () => {
      const target = this.targetOf(this.#lastShown.get(id));
      return {
        ...target,
        suggestName: () => suggestedName(target, own),
        contentOf: (camera, viewport) => contentOf(target, own, camera, viewport),
      };
    });
    this.#opened.set(id, own);
    loadKept(own);
    return own;
  }

  /** @param pane that shows the drawing from now on, when it is spoken of; none any more if null */
  shownBy(id: string, pane: string | null): void {
    if (pane === null) this.#lastShown.delete(id);
    else this.#lastShown.set(id, pane);
  }

  /** Closes drawings that no pane shows any more. */
  closeUnused(): void {
    for (const [id, drawing] of this.#opened) {
      if (this.#lastShown.has(id)) continue;
      this.#opened.delete(id);
      drawing.close();
    }
  }

  /** Gets anew what is kept with the drawings. */
  reload(): void {
    for (const drawing of this.#opened.values()) loadKept(drawing);
  }

  /** Another window has changed what a drawing is called, or where its home is. */
  heard({ id, ...news }: DrawingDto): void {
    this.#opened.get(id)?.drawing.getState().heard(news);
  }
}

function loadKept({ cards, tours, marks }: OpenDrawing): void {
  for (const kept of [cards, tours, marks]) void kept.getState().load();
}
