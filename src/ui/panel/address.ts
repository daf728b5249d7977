/** The browser's address as a place that can be followed. Changing it loads nothing. */

export const onAddress = (listener: () => void) => {
  window.addEventListener('popstate', listener);
  return () => window.removeEventListener('popstate', listener);
};

/** The part of the address after `/panel/`: a panel and a page, a page, or `tally` and a device. */
export const pathInAddress = (): string => window.location.pathname.split('/').slice(2).join('/');

export function goTo(path: string): void {
  if (window.location.pathname === path) return;
  window.history.pushState(null, '', path);
  window.dispatchEvent(new PopStateEvent('popstate'));
}
