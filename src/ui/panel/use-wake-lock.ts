import { useEffect, useState } from 'react';

/**
 * Keeps the screen awake while the panel is seen. Browsers give that up when the page is hidden, so that it is asked for again each
 * time it is shown. It needs a secure address; `refused` says that there is none or that the browser does not want to.
 */
export function useWakeLock(): 'kept' | 'refused' | 'asking' {
  const [state, setState] = useState<'kept' | 'refused' | 'asking'>('asking');
  useEffect(() => {
    let lock: WakeLockSentinel | undefined;
    let gone = false;
    const ask = async () => {
      if (document.visibilityState !== 'visible' || (lock && !lock.released)) return;
      try {
        lock = await navigator.wakeLock.request('screen');
        if (gone) return void lock.release();
        setState('kept');
      } catch {
        // Not offered at a plain address, or forbidden while the battery is low.
        if (!gone) setState('refused');
      }
    };
    void ask();
    const again = () => void ask();
    document.addEventListener('visibilitychange', again);
    return () => {
      gone = true;
      document.removeEventListener('visibilitychange', again);
      void lock?.release().catch(() => undefined);
    };
  }, []);
  return state;
}
