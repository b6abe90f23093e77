import type { ReactElement } from 'react';
import { partsOf, type Input } from '@gull-pane/core/intent/inputs';
import { KeyCaps } from '../actions/action-tip';

/** An input as a person reads it: caps for keys, words for hands. */
export function InputText({
  input,
  isFirst = false,
}: {
  readonly input: Input;
  readonly isFirst?: boolean;
}): ReactElement {
  const { words } = partsOf(input);
  const told = isFirst ? words.charAt(0).toUpperCase() + words.slice(1) : words;
  return (
    <span className="input-text">
      <KeyCaps keyName={input} />
      {told !== '' && ` ${told}`}
    </span>
  );
}
