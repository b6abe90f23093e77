import type { ClipVolume } from '@gull-pane/core/clip/clip-volume';
import type { CardClipDto } from './cards.ts';

/** What cuts a solid open, as views keep it. */
export const clipToDto = ({ name, kind, keeps, isOn, centre, half, orientation: q }: ClipVolume): CardClipDto => ({
  name,
  kind,
  keeps,
  isOn,
  centre,
  half,
  qx: q.x,
  qy: q.y,
  qz: q.z,
  qw: q.w,
});

/** @param index its place among those of its view */
export const clipFromDto = ({ qx, qy, qz, qw, ...clip }: CardClipDto, index: number): ClipVolume => ({
  ...clip,
  id: index + 1,
  orientation: { x: qx, y: qy, z: qz, w: qw },
});
