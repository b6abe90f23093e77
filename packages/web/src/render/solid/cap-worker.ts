/** Closes cuts off the page's thread. */
import { cutSurface } from '@gull-pane/core/clip/cut-surface';
import { answerCalls } from '../../basics/answer-calls';
import type { CapCalls } from './cap-calls';

answerCalls<CapCalls>({ close: (faces) => faces.map(({ face, cuts }) => cutSurface(face, cuts)) });
