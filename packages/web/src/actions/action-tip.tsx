import { Tooltip } from 'antd';
import { cloneElement, useEffect, useState, type AriaAttributes, type ReactElement } from 'react';
import { shownKey, useBindings } from './bindings';
import { ariaKeys, keyCaps } from './keys';

/** A press gives the focus, too: so long after it no tip opens, ms. */
const PRESS_MS = 600;
let pressedAtMs = -Infinity;
window.addEventListener('pointerdown', () => (pressedAtMs = performance.now()), true);

/** What a control says of itself. */
export interface Tip {
  readonly name: string;
  readonly sentence: string;
  /** Whose keys are told. */
  readonly actionId?: string;
  readonly placement?: 'right' | 'top' | 'bottom' | 'bottomRight';
}
interface ActionTipProps extends Tip {
  readonly children: ReactElement<AriaAttributes>;
}

/** What every control says on hover and focus: its name, one sentence, its keys. */
export function ActionTip({
  name,
  sentence,
  actionId = '',
  placement = 'right',
  children,
}: ActionTipProps): ReactElement {
  const [isOpen, setOpen] = useState(false);
  // what is pressed has been understood: its tip would lie over what it opens
  useEffect(() => {
    if (!isOpen) return undefined;
    const close = (): void => setOpen(false);
    window.addEventListener('pointerdown', close, true);
    return () => window.removeEventListener('pointerdown', close, true);
  }, [isOpen]);
  const shown = shownKey(useBindings()[actionId] ?? []);
  const title = (
    <span className="action-tip">
      <strong>{name}</strong>
      {shown !== undefined && <KeyCaps keyName={shown} />}
      <br />
      {sentence}
    </span>
  );
  return (
    <Tooltip
      title={title}
      placement={placement}
      mouseEnterDelay={0.4}
      trigger={['hover', 'focus']}
      open={isOpen}
      onOpenChange={(open) => setOpen(open && performance.now() - pressedAtMs > PRESS_MS)}
    >
      {shown === undefined ? children : cloneElement(children, { 'aria-keyshortcuts': ariaKeys(shown) })}
    </Tooltip>
  );
}

export function KeyCaps({ keyName }: { readonly keyName: string }): ReactElement {
  return (
    <span className="key-caps">
      {keyCaps(keyName).map((cap) => (
        <kbd key={cap}>{cap}</kbd>
      ))}
    </span>
  );
}
