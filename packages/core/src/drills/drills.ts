import { comeBack } from './come-back.ts';
import type { Drill } from './drill.ts';
import { exactScale } from './exact-scale.ts';
import { findTag } from './find-tag.ts';
import { followLine } from './follow-line.ts';
import { frameDetail } from './frame-detail.ts';
import { lookAtSide } from './look-at-side.ts';
import { measureAcross } from './measure-across.ts';
import { straighten } from './straighten.ts';
import { threePlaces } from './three-places.ts';
import { twoPanes } from './two-panes.ts';

/** In the order in which they are done: a new drill is a file of this folder and a place in this list. */
export const drills: readonly Drill[] = [
  frameDetail,
  comeBack,
  exactScale,
  findTag,
  lookAtSide,
  threePlaces,
  followLine,
  straighten,
  twoPanes,
  measureAcross,
];

/** The drills for drawings of a kind. */
export const drillsFor = (kind: 'flat' | 'solid'): readonly Drill[] =>
  drills.filter((drill) => drill.kind === 'any' || drill.kind === kind);
