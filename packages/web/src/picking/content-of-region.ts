import { objectKinds } from '@gull-pane/core/pick/object-index';
import { ContentPrint } from '@gull-pane/core/pick/content-print';
import type { Picker } from '@gull-pane/core/pick/picker';
import type { Region } from '@gull-pane/core/pick/region';

/** So many objects are told by their exact shapes; of more only how many there are, by layer and kind. */
const MOST_PRINTED = 20_000;

/** What lies in a region, as one number; all of it, whether it is shown or not. */
export async function printOf(own: Picker, region: Region, layerNames: readonly string[]): Promise<string> {
  const { kinds, layers } = own.index.columns;
  const print = new ContentPrint();
  const { touching } = await own.within(region, () => true);
  const nameOf = (entry: number): string => layerNames[layers[entry]!] ?? '';
  if (touching.length <= MOST_PRINTED) {
    await own.shapes(touching, (entry, { painted, path }) =>
      print.add(
        [painted, ...Array.from(path.ops), ...Array.from(path.coords)],
        `${objectKinds[kinds[entry]!]} ${nameOf(entry)}`,
      ),
    );
    return String(print);
  }
  const counts = new Map<string, number>();
  for (const entry of touching) {
    const word = `${objectKinds[kinds[entry]!]} ${nameOf(entry)}`;
    counts.set(word, (counts.get(word) ?? 0) + 1);
  }
  for (const [word, count] of counts) print.add([count], word);
  return String(print);
}
