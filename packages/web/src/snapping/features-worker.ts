/** Finds the corners, edges and faces of objects off the page's thread. */
import { featuresOf, type SolidFeatures } from '@gull-pane/core/solid/features';
import type { ObjectDto } from '@gull-pane/protocol/objects';

export interface ToFeaturesWorker {
  readonly object: number;
  readonly address: string;
}
export interface FromFeaturesWorker {
  readonly object: number;
  readonly features: SolidFeatures | null;
}

const say = (message: FromFeaturesWorker): void => self.postMessage(message);

self.onmessage = async ({ data: { object, address } }: MessageEvent<ToFeaturesWorker>): Promise<void> => {
  try {
    const response = await fetch(address);
    if (!response.ok) throw new Error(`status ${response.status}`);
    const { solid } = (await response.json()) as ObjectDto;
    say({ object, features: solid ? featuresOf(solid.parts) : null });
  } catch {
    say({ object, features: null });
  }
};
