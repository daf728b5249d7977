import type { PageContext } from '../../core/page';

/** What this viewing device remembers of a panel. */
export interface PanelMemory {
  readonly page?: string;
  readonly contexts: Readonly<Record<string, PageContext>>;
  /** Whether it goes to the page that is called; as the panel says where it is left out. */
  readonly following?: boolean;
  /** In per cent; as the panel says where it is left out. */
  readonly brightness?: number;
}

const nothing: PanelMemory = { contexts: {} };
const key = (panel: string): string => `sorrelfinch-panel ${panel}`;
const titleKey = 'sorrelfinch-screen-title';

/** A browser may forbid to keep anything; then nothing is remembered. */
export function recall(panel: string): PanelMemory {
  try {
    const kept = JSON.parse(localStorage.getItem(key(panel)) ?? 'null') as Partial<PanelMemory> | null;
    return { ...nothing, ...kept, contexts: kept?.contexts ?? {} };
  } catch {
    return nothing;
  }
}

export function remember(panel: string, memory: PanelMemory): void {
  try {
    localStorage.setItem(key(panel), JSON.stringify(memory));
  } catch {
    // It goes on without.
  }
}

/** What this viewing device is called in the desk's list. */
export function screenTitle(): string {
  try {
    return localStorage.getItem(titleKey) ?? kindOfDevice();
  } catch {
    return kindOfDevice();
  }
}

export function nameScreen(title: string): void {
  try {
    if (title === '') localStorage.removeItem(titleKey);
    else localStorage.setItem(titleKey, title);
  } catch {
    // It keeps the name of its kind.
  }
}

function kindOfDevice(): string {
  const narrow = Math.min(window.screen.width, window.screen.height);
  if (!window.matchMedia('(pointer: coarse)').matches) return 'computer';
  return narrow < 600 ? 'phone' : 'tablet';
}
