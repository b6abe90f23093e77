import type { SixAxisSample, SixAxisSource } from '@gull-pane/core/device/six-axis';

/** How the axes of a device with two sticks and two levers become six: where the axis is read, and which way counts. */
const twoSticks = (pad: Gamepad): SixAxisSample['axes'] => {
  const axis = (index: number): number => pad.axes[index] ?? 0;
  const lever = (index: number): number => pad.buttons[index]?.value ?? 0;
  return [axis(0), -axis(1), lever(7) - lever(6), -axis(3), -axis(2), (lever(4) - lever(5)) * 0.6];
};
/** A device that has six axes of its own tells them in this order (Gamepad, W3C, 2025: axes of a mapping of its own). */
const sixAxes = ({ axes }: Gamepad): SixAxisSample['axes'] => {
  const axis = (index: number): number => axes[index] ?? 0;
  return [axis(0), -axis(2), axis(1), -axis(3), axis(5), -axis(4)];
};

/** A controller that is plugged into this machine, read by the browser. */
export const gamepadSource: SixAxisSource = {
  start(listener) {
    let frame = 0;
    const read = (timeMs: number): void => {
      frame = requestAnimationFrame(read);
      const pad = navigator.getGamepads().find((one) => one?.connected);
      if (!pad) return;
      const axes = pad.mapping === 'standard' ? twoSticks(pad) : sixAxes(pad);
      const buttons = pad.buttons.flatMap(({ pressed }, index) => (pressed ? [index] : []));
      listener({ axes, buttons, timeMs });
    };
    const begin = (): void => {
      if (frame === 0) frame = requestAnimationFrame(read);
    };
    const end = (): void => {
      if (navigator.getGamepads().some((one) => one?.connected)) return;
      cancelAnimationFrame(frame);
      frame = 0;
      listener({ axes: [0, 0, 0, 0, 0, 0], buttons: [], timeMs: performance.now() });
    };
    window.addEventListener('gamepadconnected', begin);
    window.addEventListener('gamepaddisconnected', end);
    if (navigator.getGamepads().some((one) => one?.connected)) begin();
    return () => {
      cancelAnimationFrame(frame);
      window.removeEventListener('gamepadconnected', begin);
      window.removeEventListener('gamepaddisconnected', end);
    };
  },
};
