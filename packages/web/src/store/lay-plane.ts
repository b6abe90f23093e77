import type { WorkPlane } from '@gull-pane/core/plane/work-plane';
import { withWorkPlane } from '@gull-pane/core/view/shown';
import type { PaneStore } from './pane-state';

/** Lays a pane's work plane, as one step. @param name empty for none */
export const layPlane = (pane: PaneStore, plane: WorkPlane, name = ''): void =>
  pane.getState().update((shown) => withWorkPlane(shown, plane, name), 'plane');
