import { useEffect, useMemo, useState } from 'react';
import { planCamera, type Camera } from '@gull-pane/core/camera/camera';
import { fitSupport } from '@gull-pane/core/camera/fit-support';
import { hidesOther } from '@gull-pane/core/view/shown';
import type { Parts } from '../actions/action';
import type { Scene } from '../render/scene/scene';
import { SmallPictures } from '../store/small-pictures';
import { THUMBNAIL, ThumbnailMaker } from '../trail/thumbnail-maker';

/** The view of a small picture of a whole drawing from straight above. */
export function usePlanCamera({ pane, drawing }: Parts<'pane' | 'drawing'>): Camera {
  return useMemo<Camera>(() => {
    const { limits } = pane.getState();
    const support = drawing.getState().layers.flatMap((layer) => layer.support);
    return fitSupport(planCamera({ x: 0, y: 0, z: 0 }, 1), THUMBNAIL, support, limits);
  }, [pane, drawing]);
}

/** That picture, made once nothing else is going on; undefined until then. @param name tells it from others of the pane */
export function usePlanPicture(
  { pane }: Parts<'pane'>,
  scene: Scene,
  camera: Camera,
  name: string,
): string | undefined {
  const [picture, setPicture] = useState<string>();
  useEffect(() => {
    const pictures = new SmallPictures();
    const maker = new ThumbnailMaker(scene, `${pane.getState().id}/${name}`, pictures, {
      isCalm: () => !pane.getState().isFlying,
      shown: () => ({
        hiddenLayers: pane.getState().shown.hiddenLayers,
        kinds: pane.getState().shown.kinds,
        look: 'shaded',
        clips: [],
        smoothEdges: true,
        sheet: null,
      }),
    });
    const stops = [
      pictures.onChange(() => setPicture(pictures.of({ camera }))),
      pane.subscribe(({ shown }, before) => {
        if (hidesOther(shown, before.shown)) pictures.forget();
      }),
    ];
    maker.want([{ camera, viewport: THUMBNAIL }]);
    return () => {
      for (const stop of stops) stop();
      maker.dispose();
      pictures.forget();
    };
  }, [pane, scene, camera, name]);
  return picture;
}
