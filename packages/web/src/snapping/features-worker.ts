/** Finds the corners, edges and faces of objects off the page's thread. */
import { featuresOf, type SolidFeatures } from '@gull-pane/core/solid/features';
import type { ObjectDto } from '@gull-pane/protocol/objects';
import { answerCalls } from '../basics/answer-calls';

export interface FeaturesCalls {
  /** Of the object that is told at an address; null if it has no surface. */
  features: { ask: string; answer: SolidFeatures | null };
}

answerCalls<FeaturesCalls>({
  async features(address) {
    const response = await fetch(address);
    if (!response.ok) throw new Error(`status ${response.status}`);
    const { solid } = (await response.json()) as ObjectDto;
    return solid ? featuresOf(solid.parts) : null;
  },
});
