import type { PanelView, StatusView } from '../live';

/** Where a panel's address leads. */
interface PanelPlace {
  /** The panel that the address names; `undefined` for the plain address, which has every page. */
  readonly panel: PanelView | undefined;
  /** What an address of a page of it begins with. */
  readonly base: string;
  /** Its pages, the first one first. */
  readonly pages: StatusView['pages'];
  /** The page that the address names, there or not. */
  readonly asked: string | undefined;
}

/** @param address the part after `/panel/` */
export function panelPlace(address: string, { panels, pages }: Pick<StatusView, 'panels' | 'pages'>): PanelPlace {
  const [first = '', second] = address.split('/');
  const panel = panels.find(({ path }) => path === first);
  if (!panel) return { panel, base: '/panel', pages, asked: first || undefined };
  const byId = new Map(pages.map((page) => [page.id, page]));
  const own = panel.pages.length === 0 ? pages : panel.pages.flatMap((id) => byId.get(id) ?? []);
  return { panel, base: `/panel/${panel.path}`, pages: own, asked: second || undefined };
}

/** The page to show: the one that was asked for, or that this screen showed last, or the first. */
export function pageToShow({ asked, pages }: PanelPlace, remembered: string | undefined): string | undefined {
  const has = (id: string | undefined) => pages.some((page) => page.id === id);
  if (asked !== undefined) return asked;
  return has(remembered) ? remembered : pages[0]?.id;
}
