import { Popover } from 'antd';
import { useState, type ReactElement, type ReactNode } from 'react';
import { ActionTip, type Tip } from '../actions/action-tip';

interface PopoverButtonProps {
  /** Its name, or the id of an element that tells it: a name that changes with every frame changes there alone. */
  readonly label: string | { readonly by: string };
  readonly className: string;
  readonly placement?: 'top' | 'topLeft' | 'topRight';
  readonly tip: Tip;
  /** What stands in the panel. @param close puts the panel away */
  readonly content: (close: () => void) => ReactNode;
  /** Which of the colours of ties marks the button. */
  readonly colour?: number;
  readonly children: ReactNode;
}

/** A button that opens a small panel beside it, above the foot of a pane. */
export function PopoverButton(props: PopoverButtonProps): ReactElement {
  const { label, className, placement = 'top', tip, content, colour, children } = props;
  const [isOpen, setOpen] = useState(false);
  return (
    <Popover
      open={isOpen}
      onOpenChange={setOpen}
      trigger="click"
      placement={placement}
      destroyOnHidden
      content={() => content(() => setOpen(false))}
    >
      {/* the tip takes only the handlers of its own child: the panel needs an element of its own around it */}
      <span>
        <ActionTip placement="top" {...tip}>
          <button
            type="button"
            className={className}
            {...(typeof label === 'string' ? { 'aria-label': label } : { 'aria-labelledby': label.by })}
            aria-expanded={isOpen}
            data-colour={colour}
          >
            {children}
          </button>
        </ActionTip>
      </span>
    </Popover>
  );
}
