'use client';

import { useEffect, useRef } from 'react';

/**
 * Lets go of what a hand holds however the control leaves it: the control leaves the screen (another page, another level, redrawn), the
 * window loses the focus, or the screen is switched off.
 */
export function useLetGo(letGo: () => void): void {
  const latest = useRef(letGo);
  useEffect(() => {
    latest.current = letGo;
  });
  useEffect(() => {
    const go = () => latest.current();
    const hidden = () => document.visibilityState === 'hidden' && go();
    window.addEventListener('blur', go);
    window.addEventListener('pagehide', go);
    document.addEventListener('visibilitychange', hidden);
    return () => {
      window.removeEventListener('blur', go);
      window.removeEventListener('pagehide', go);
      document.removeEventListener('visibilitychange', hidden);
      go();
    };
  }, []);
}
