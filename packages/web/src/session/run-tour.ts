import type { TourPlayer } from '../store/tour-player';

/** Moves a tour on at every frame of the screen while it plays. @returns what ends it */
export function runTour(player: TourPlayer): () => void {
  let request = 0;
  const frame = (): void => {
    request = 0;
    player.getState().tick();
    wake();
  };
  const wake = (): void => {
    if (request === 0 && player.getState().isPlaying) request = requestAnimationFrame(frame);
  };
  const stop = player.subscribe(wake);
  return () => {
    stop();
    cancelAnimationFrame(request);
  };
}
