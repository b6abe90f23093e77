import type { Inspection } from '@gull-pane/protocol/inspect';

declare global {
  interface Window {
    readonly gullPane: { readonly inspect: () => Inspection };
  }
}
