import type { Camera, Viewport } from '@gull-pane/core/camera/camera';
import { regionOfPane } from '@gull-pane/core/pick/region';
import { waysOf } from '@gull-pane/core/tour/timeline';
import type { Answers } from '../picking/pick-questions';
import type { TourPlan } from '../store/tour-plan';

/** Places of a way that are looked at. */
const LOOKS = 12;
/** How much higher than need be a way may rise until it is taken as it is; 0 is the best way. */
const FACTORS = [0, 1, 2, 4, 8] as const;
/** After the last change of a tour the looks wait so long, ms. */
const PAUSE_MS = 250;

/**
 * Looks where the ways of a tour see nothing at all of the drawing, and lets them rise until they do.
 * @returns a function that looks at a plan, and tells by the ids of stops how high the ways there have to rise
 */
export function waysThatSee(
  asked: Answers,
  sizeOf: () => Viewport,
): (plan: TourPlan, take: (raised: ReadonlyMap<string, number>) => void) => void {
  const known = new Map<string, number>();
  let timer: ReturnType<typeof setTimeout> | undefined;
  let turn = 0;
  const isEmpty = async (camera: Camera, viewport: Viewport): Promise<boolean> =>
    !(await asked.ask('sight', { region: regionOfPane(camera, viewport) })).isAnything;
  const factorFor = async (plan: TourPlan, stop: number, viewport: Viewport): Promise<number> => {
    for (const factor of FACTORS) {
      const way = waysOf(
        plan.tourStops,
        viewport,
        plan.tourStops.map(() => factor),
      )[stop]!;
      let isSeeing = true;
      for (let k = 1; k < LOOKS && isSeeing; k++) isSeeing = !(await isEmpty(way.at(k / LOOKS), viewport));
      if (isSeeing) return factor;
    }
    return 0; // there is nothing to be seen from anywhere
  };
  return (plan, take) => {
    clearTimeout(timer);
    const own = ++turn;
    timer = setTimeout(() => {
      const viewport = sizeOf();
      void (async () => {
        const raised = new Map<string, number>();
        for (const [k, { stop }] of plan.stops.entries()) {
          if (k === 0 && !plan.tour.loops) continue;
          const before = plan.tourStops.at(k - 1)!;
          const key = JSON.stringify([
            before.camera,
            before.driftRadPerS,
            before.stayMs,
            plan.tourStops[k]!.camera,
            viewport,
          ]);
          const factor = known.get(key) ?? (await factorFor(plan, k, viewport));
          if (own !== turn) return;
          known.set(key, factor);
          if (factor > 0) raised.set(stop.id, factor);
        }
        take(raised);
      })().catch(() => undefined); // the best ways do then
    }, PAUSE_MS);
  };
}
