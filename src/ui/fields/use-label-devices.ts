import { useMemo } from 'react';
import type { LabelDevice } from '../../core/face';
import { useRigFacts } from './rig-facts';

/** The devices of the rig with what they report, for texts that name readings. */
export function useLabelDevices(): readonly LabelDevice[] {
  const { readable, documentOf, readings } = useRigFacts();
  return useMemo(
    () =>
      readable.map(({ id, data }) => ({
        id,
        tag: data.tag,
        name: data.name,
        document: documentOf(id),
        readings: readings.get(id) ?? {},
      })),
    [readable, documentOf, readings],
  );
}
