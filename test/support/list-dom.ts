import { vi } from 'vitest';

/** Gives jsdom what searchable lists ask a browser for: sizes that change, and scrolling. */
export function stubListDom(): void {
  class Sizes {
    observe() {}
    unobserve() {}
    disconnect() {}
  }
  vi.stubGlobal('ResizeObserver', Sizes);
  Element.prototype.scrollIntoView = vi.fn<() => void>();
  Element.prototype.scrollTo = vi.fn<() => void>();
  Element.prototype.hasPointerCapture = () => false;
}
