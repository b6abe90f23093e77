import { sameView, type Camera } from '@gull-pane/core/camera/camera';
import type { ArrangedDto } from '@gull-pane/protocol/arrangements';
import type { DrawingContent } from '../store/drawing-store';
import { trailFromDto } from '../store/keep-trail';
import { readViewAddress } from '../store/view-address';
import type { ApartOpening } from './apart';
import { dressAs, startOf } from './arranged';
import type { PaneStart } from './pane-target';
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

/** What a pane of a drawing begins with that is opened by its address: that view, and the way that led there. */
export function startByAddress(content: DrawingContent, search: URLSearchParams): PaneStart {
  const address = readViewAddress(search);
  const trail = trailFromDto(content.trail);
  const last = trail?.entries[trail.current]?.camera;
  const camera = inFullDigits(last, address.camera);
  return {
    ...(camera ? { camera } : {}),
    ...(trail ? { trail } : {}),
    ...(address.hidden ? { hidden: address.hidden } : {}),
  };
}

/** An address tells the direction in degrees: of the same view the trail knows all digits. */
const inFullDigits = (known: Camera | undefined, told: Camera | null): Camera | null =>
  known && told && sameView(known, told) ? known : told;

/** Opens what a window begins with. */
export function startSession({ first, contents, layout, apart }: Opening): Session {
  if (apart) {
    const session = createSession(first, startOf(apart.arranged), true);
    dressAs(session.targetOf('1'), apart.arranged);
    return session;
  }
  const search = new URLSearchParams(location.search);
  const session = createSession(first, startByAddress(first, search));
  session.addContents(contents);
  const [only, ...others] = layout?.panes ?? [];
  // of one pane the address tells the place, and the server the way there: of these it knows more
  if (only && others.length === 0) {
    if (only.drawingId === first.drawing.id) dressAs(session.targetOf('1'), only);
  } else if (layout) session.arrange(layout);
  return session;
}
