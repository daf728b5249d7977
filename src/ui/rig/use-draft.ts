'use client';

import { useCallback, useState } from 'react';

/**
 * State of a form that survives a reload: kept in this window until it is saved or left. Nothing secret may be put in it.
 *
 * @param stamp a draft that was begun over another stamp (an older version of the record) is not taken up again
 */
export function useDraft<T>(
  name: string,
  stamp: string,
  initial: () => T,
): readonly [T, (value: T) => void, () => void] {
  const key = `sorrelfinch-draft ${name}`;
  const [value, setValue] = useState<T>(() => {
    try {
      const kept = JSON.parse(sessionStorage.getItem(key) ?? 'null') as { stamp: string; value: T } | null;
      if (kept?.stamp === stamp) return kept.value;
    } catch {
      // What cannot be read is no draft.
    }
    return initial();
  });
  const set = useCallback(
    (next: T) => {
      setValue(next);
      sessionStorage.setItem(key, JSON.stringify({ stamp, value: next }));
    },
    [key, stamp],
  );
  const clear = useCallback(() => sessionStorage.removeItem(key), [key]);
  return [value, set, clear];
}
