import { Input } from 'antd';
import type { ReactElement } from 'react';

/** The label of a field that says its name itself. */
export function Labelled({
  label,
  children,
}: {
  readonly label: string;
  readonly children: ReactElement;
}): ReactElement {
  return (
    <div className="sheet-field">
      <span aria-hidden>{label}</span>
      {children}
    </div>
  );
}

/** A field for a line of text. @param isNeeded an empty text is not taken */
export function TextField({
  label,
  value,
  isNeeded = false,
  onSet,
}: {
  readonly label: string;
  readonly value: string;
  readonly isNeeded?: boolean;
  readonly onSet: (text: string) => void;
}): ReactElement {
  return (
    <label className="sheet-field">
      <span>{label}</span>
      <Input
        key={value}
        defaultValue={value}
        maxLength={120}
        onBlur={({ currentTarget }) => {
          const text = currentTarget.value.trim();
          if (text !== value && (text !== '' || !isNeeded)) onSet(text);
        }}
        onPressEnter={({ currentTarget }) => currentTarget.blur()}
      />
    </label>
  );
}
