import { Tooltip } from 'antd';
import type { ReactElement } from 'react';
import { shownKey, useBindings } from './bindings';
import { keyCaps } from './keys';

interface ActionTipProps {
  readonly name: string;
  readonly sentence: string;
  /** Whose keys are told. */
  readonly actionId?: string;
  readonly placement?: 'right' | 'top' | 'bottom' | 'bottomRight';
  readonly children: ReactElement;
}

/** What every control says on hover and focus: its name, one sentence, its keys. */
export function ActionTip({
  name,
  sentence,
  actionId = '',
  placement = 'right',
  children,
}: ActionTipProps): ReactElement {
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
    <Tooltip title={title} placement={placement} mouseEnterDelay={0.4} trigger={['hover', 'focus']}>
      {children}
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
