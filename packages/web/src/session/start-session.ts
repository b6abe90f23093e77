import { sameView, type Camera } from '@gull-pane/core/camera/camera';
import type { Shown } from '@gull-pane/core/view/shown';
import type { ArrangedDto, ArrangedPaneDto } from '@gull-pane/protocol/arrangements';
import type { DrawingContent } from '../store/drawing-store';
import { trailFromDto } from '../store/keep-trail';
import { readViewAddress } from '../store/view-address';
import type { ApartOpening } from './apart';
import { dressAs, startOf } from './arranged';
import { shownInNewPane, type PaneStart } from './pane-target';
import { shownFromDto } from '../wire/view-dto';
import { createSession, type Session } from './session';

/** What a window begins with. */
export interface Opening {
  /** The drawing that the address names. */
  readonly first: DrawingContent;
  readonly contents: readonly DrawingContent[];
  /** How the panes lay when the page was left; null if that isn't known. */
  readonly layout: ArrangedDto | null;
  /** This window is that of one pane of another window's arrangement. */
  readonly apart: ApartOpening | null;
}

/**
 * What a pane of a drawing begins with that is opened by its address: that view, and the way that led there.
 * @param kept what more is known of it, if the page was reloaded
 */
export function startByAddress(content: DrawingContent, search: URLSearchParams, kept?: ArrangedPaneDto): PaneStart {
  const address = readViewAddress(search);
  const first = shownInNewPane(content);
  const there = new Set(content.layers.map(({ id }) => id));
  const shown = address.hidden
    ? { ...first, hiddenLayers: new Set(address.hidden.filter((id) => there.has(id))) }
    : first;
  return startIn(content, address.camera, kept ? shownFromDto(kept.shows, content, shown) : shown);
}

function startIn(content: DrawingContent, told: Camera | null, shown: Shown): PaneStart {
  const trail = trailFromDto(content.trail, content, shown);
  const last = trail?.entries[trail.current]?.camera;
  const camera = inFullDigits(last, told);
  return { shown, ...(camera ? { camera } : {}), ...(trail ? { trail } : {}) };
}

/** An address tells the direction in degrees: of the same view the trail knows all digits. */
const inFullDigits = (known: Camera | undefined, told: Camera | null): Camera | null =>
  known && told && sameView(known, told) ? known : told;

/** Opens what a window begins with. */
export function startSession({ first, contents, layout, apart }: Opening): Session {
  if (apart) {
    const session = createSession(first, startOf(apart.arranged, first), true);
    dressAs(session.targetOf('1'), apart.arranged);
    return session;
  }
  // of one pane the address tells the place, and the server the way there: of these it knows more
  const [only, ...others] = layout?.panes ?? [];
  const own = others.length === 0 && only?.drawingId === first.drawing.id ? only : undefined;
  const session = createSession(first, startByAddress(first, new URLSearchParams(location.search), own));
  session.addContents(contents);
  if (own) dressAs(session.targetOf('1'), own);
  else if (layout && others.length > 0) session.arrange(layout);
  return session;
}
