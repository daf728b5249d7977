import type { SnapshotPart } from '../../core/show';
import { stillOf } from '../../core/snapshot';
import { tellNotice } from '../kit';
import { takePicture } from '../parts';
import type { SnapshotFacts } from './use-snapshot-facts';

/** Fetches the picture that goes with a snapshot of these parts, where a driver says which. Without one, the reason is told. */
export async function fetchStill(
  parts: readonly SnapshotPart[],
  { documentOf }: Pick<SnapshotFacts, 'documentOf'>,
): Promise<{ readonly picture?: string }> {
  const from = stillOf(parts, documentOf);
  if (!from) return {};
  const taken = await takePicture(from.device, from.still);
  if (taken.ok) return { picture: taken.value };
  tellNotice(`The snapshot has no picture. ${taken.error}`, 'snapshot');
  return {};
}
