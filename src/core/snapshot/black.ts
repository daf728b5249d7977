import { indexesOf, memberKey, splitKey, type DriverDocument } from '../driver';
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
    // What was not taken may be on, and may show anything.
    const shown = indexesOf(index).filter((box) => on === undefined || values[memberKey(on, box)] !== false);
    if (shown.length === 0) return 'All of its boxes are off.';
    const isBlack = (box: number): boolean => {
      const input = values[memberKey(source, box)];
      return typeof input === 'number' && isNoSource(document, memberKey(source, box), input);
    };
    if (shown.every(isBlack)) return 'Its boxes show sources that do not exist, or the layout itself.';
  }
  return undefined;
}

/** True for a source that a box cannot show: the device does not have it, or it is the picture that the box itself is part of. */
export function isNoSource(document: DriverDocument, key: string, input: number): boolean {
  const { family } = splitKey(key);
  const shape = document.readings[family]?.value;
  const most = shape?.type === 'whole' ? Number(shape.max ?? Number.POSITIVE_INFINITY) : Number.POSITIVE_INFINITY;
  const isItself =
    document.tally?.inside.some((inside) => inside.reading === family && inside.input === input) === true;
  return input < 1 || input > most || isItself;
}
