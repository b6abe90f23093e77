import type { TextSettings } from './page-text.ts';

/**
 * What an operator makes of the text settings (ISO 32000-2, 9.3).
 * @param name the operator's, as the parsing package calls it; one that sets nothing returns the same settings
 * @param isBold whether a font of this name is a bold one
 */
export function settingsAfter(
  settings: TextSettings,
  name: string,
  args: readonly unknown[],
  isBold: (font: string) => boolean,
): TextSettings {
  const [first, second] = [Number(args[0] ?? 0), Number(args[1] ?? 0)];
  switch (name) {
    case 'setFont':
      return { ...settings, size: second, isBold: isBold(String(args[0])) };
    case 'setCharSpacing':
      return { ...settings, charSpacing: first };
    case 'setWordSpacing':
      return { ...settings, wordSpacing: first };
    case 'setHScale':
      return { ...settings, stretch: first / 100 };
    case 'setLeading':
      return { ...settings, leading: first };
    case 'setLeadingMoveText':
      return { ...settings, leading: -second };
    case 'setTextRise':
      return { ...settings, rise: first };
    case 'setTextRenderingMode':
      return { ...settings, isVisible: first !== 3 && first !== 7 };
    default:
      return settings;
  }
}
