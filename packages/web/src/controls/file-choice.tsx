import { useRef, type ReactElement } from 'react';

/**
 * Lets the browser ask for a file.
 * @param label what the file is for
 * @returns what has to be rendered, and what begins to ask
 */
export function useFileChoice(label: string, onChosen: (file: File) => void): readonly [ReactElement, () => void] {
  const input = useRef<HTMLInputElement>(null);
  const element = (
    <input
      ref={input}
      type="file"
      hidden
      aria-label={label}
      onChange={(event) => {
        const [chosen] = event.target.files ?? [];
        event.target.value = ''; // so that the same file can be chosen once more
        if (chosen) onChosen(chosen);
      }}
    />
  );
  return [element, () => input.current?.click()];
}
