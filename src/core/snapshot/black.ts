import { indexesOf, memberKey, type DriverDocument } from '../driver';
import type { SnapshotPart } from '../show';

/**
 * Why a layout that is kept would show nothing but black; `undefined` where it shows something, or where nobody can tell. A box shows
 * nothing when it is off, when its source does not exist, and when it shows the layout itself.
 */
export function blackReason(
  parts: readonly SnapshotPart[],
  documentOf: (device: string) => DriverDocument | undefined,
): string | undefined {
  for (const { device, keep, values } of parts) {
    const document = documentOf(device);
    const layout = document?.layouts[document.keeps[keep]?.layout ?? ''];
    const index = layout && document?.readings[layout.x]?.index;
    if (!document || !layout || !index) continue;
    const { on, source } = layout;
    const shape = document.readings[source]?.value;
    const most = shape?.type === 'whole' ? Number(shape.max ?? Number.POSITIVE_INFINITY) : Number.POSITIVE_INFINITY;
    const itself = document.tally?.inside.filter(({ reading }) => reading === source).map(({ input }) => input) ?? [];
    // What was not taken may be on, and may show anything.
    const shown = indexesOf(index).filter((box) => on === undefined || values[memberKey(on, box)] !== false);
    if (shown.length === 0) return 'All of its boxes are off.';
    const isBlack = (box: number): boolean => {
      const input = values[memberKey(source, box)];
      return typeof input === 'number' && (input < 1 || input > most || itself.includes(input));
    };
    if (shown.every(isBlack)) return 'Its boxes show sources that do not exist, or the layout itself.';
  }
  return undefined;
}
