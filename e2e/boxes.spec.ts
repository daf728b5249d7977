import type { Page } from '@playwright/test';
import { allUp, openDevice } from './hand';
import { expect, test } from './program';

/** What a look at a picture would find, found by measuring: at each size nothing lies over something else, and no text is cut off. */
const sizes = [
  { width: 1280, height: 800 },
  { width: 1024, height: 768 },
  { width: 390, height: 844 },
] as const;

/**
 * Faults in what can be seen of a page: things to press or type into that overlap, texts that are cut without saying so, and a page that is
 * wider than its window or scrolls further than it has anything to show. A text that ends in an ellipsis says that there is more; what scrolls shows it.
 */
const faults = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const found: string[] = [];
    const root = document.documentElement;
    if (root.scrollWidth > root.clientWidth + 1) found.push(`wider than the window: ${root.scrollWidth} px`);
    const all = [...document.body.querySelectorAll<HTMLElement>('*')];
    // What is hidden for all but screen readers and has no place of its own makes the page as long as the pane that it scrolls in.
    for (const element of all)
      if (
        element.offsetParent === document.body &&
        element.textContent !== '' &&
        getComputedStyle(element).position === 'absolute' &&
        element.offsetTop > root.clientHeight
      )
        found.push(`scrolls into nothing: ${element.textContent.slice(0, 40)} at ${element.offsetTop} px`);
    const isSeen = (element: HTMLElement): boolean =>
      element.checkVisibility({ opacityProperty: true, visibilityProperty: true }) &&
      !element.closest('[aria-hidden="true"], [inert], svg');
    const nameOf = (element: HTMLElement): string =>
      `${element.tagName.toLowerCase()} “${(element.getAttribute('aria-label') ?? element.innerText).slice(0, 40)}”`;
    /** The part of an element that its scrolling surroundings leave to be seen. */
    const boxOf = (element: HTMLElement) => {
      const { left, right, top, bottom } = element.getBoundingClientRect();
      const box = { left, right, top, bottom };
      for (let around = element.parentElement; around; around = around.parentElement) {
        if (getComputedStyle(around).overflow === 'visible') continue;
        const edge = around.getBoundingClientRect();
        box.left = Math.max(box.left, edge.left);
        box.right = Math.min(box.right, edge.right);
        box.top = Math.max(box.top, edge.top);
        box.bottom = Math.min(box.bottom, edge.bottom);
      }
      return box;
    };
    const isLaidOver = (element: HTMLElement): boolean => {
      for (let around: HTMLElement | null = element; around; around = around.parentElement)
        if (['fixed', 'sticky'].includes(getComputedStyle(around).position)) return true;
      return false;
    };
    const targets = all
      .filter(
        (element) =>
          element.matches('button, a[href], input, textarea, select, [role="slider"], h1, h2') && isSeen(element),
      )
      .filter((element) => !isLaidOver(element))
      .map((element) => ({ element, box: boxOf(element) }))
      .filter(({ box }) => box.right - box.left > 3 && box.bottom - box.top > 3);
    for (const [n, one] of targets.entries())
      for (const other of targets.slice(n + 1)) {
        if (one.element.contains(other.element) || other.element.contains(one.element)) continue;
        const width = Math.min(one.box.right, other.box.right) - Math.max(one.box.left, other.box.left);
        const height = Math.min(one.box.bottom, other.box.bottom) - Math.max(one.box.top, other.box.top);
        if (width > 2 && height > 2) found.push(`overlap: ${nameOf(one.element)} and ${nameOf(other.element)}`);
      }
    for (const element of all) {
      const own = [...element.childNodes].some((node) => node.nodeType === Node.TEXT_NODE && node.textContent?.trim());
      if (!own || !isSeen(element) || element.closest('.cm-editor, .sr-only, option')) continue;
      const style = getComputedStyle(element);
      if (style.overflowX !== 'hidden' && style.overflowX !== 'clip') continue;
      const isSaid = style.textOverflow === 'ellipsis' || style.webkitLineClamp !== 'none';
      if (!isSaid && element.scrollWidth > element.clientWidth + 1) found.push(`cut: ${nameOf(element)}`);
    }
    return found;
  });

const screens: readonly (readonly [name: string, path: string, ready: (page: Page) => Promise<unknown>])[] = [
  ['rig', '/rig', (page) => allUp(page)],
  ['pages', '/pages/page-pontoon', (page) => page.locator('[data-control]').first().waitFor()],
  ['editor', '/pages/page-race?edit=1', (page) => page.locator('.edit-grid [data-control]').first().click()],
  ['macro', '/macros/mac-wipe', (page) => page.locator('[data-step]').first().waitFor()],
  ['watches', '/watches?open=watch-1', (page) => page.getByRole('article', { name: /Recording/ }).waitFor()],
  ['variables', '/variables', (page) => page.getByRole('button', { name: /^Race/ }).waitFor()],
  ['inlets', '/inlets', (page) => page.getByRole('button', { name: /^Text box/ }).click()],
  ['snapshots', '/snapshots?open=snap-3', (page) => page.getByRole('group', { name: 'Boxes' }).waitFor()],
  ['panels', '/panels', (page) => page.getByRole('listitem', { name: 'Tally of C1' }).waitFor()],
  ['wire', '/wire', (page) => page.getByRole('row').nth(5).waitFor()],
  ['as-run', '/as-run', (page) => page.getByRole('row').nth(5).waitFor()],
  ['show', '/show', (page) => page.getByText('this computer only').first().waitFor()],
  ['drivers', '/drivers', (page) => page.getByRole('row').nth(3).waitFor()],
  ['panel', '/panel/page-race', (page) => page.locator('[data-control]').first().waitFor()],
  ['panel with every kind', '/panel/page-pontoon', (page) => page.getByRole('slider').first().waitFor()],
  ['tally', '/panel/tally/C1', (page) => page.getByRole('status').waitFor()],
];

test('nothing overlaps and no text is cut, at each size', async ({ page, program }) => {
  test.slow();
  const found: string[] = [];
  for (const [name, path, ready] of screens) {
    await page.setViewportSize(sizes[0]);
    await page.goto(program.url + path);
    await ready(page);
    await page.evaluate(() => document.fonts.ready);
    // A phone has panels and the tally in its hand; the desk is worked on larger screens.
    for (const size of sizes.filter(({ width }) => width > 600 || path.startsWith('/panel/'))) {
      await page.setViewportSize(size);
      // Two frames: what measures itself has drawn again.
      await page.evaluate(() => new Promise((next) => requestAnimationFrame(() => requestAnimationFrame(next))));
      const where = `${name} at ${size.width} x ${size.height}`;
      found.push(...(await faults(page)).map((fault) => `${where}: ${fault}`));
    }
    if (name !== 'rig') continue;
    await openDevice(page, 'Vision switcher', 'Settings');
    for (const size of sizes.filter(({ width }) => width > 600)) {
      await page.setViewportSize(size);
      found.push(...(await faults(page)).map((fault) => `details at ${size.width} x ${size.height}: ${fault}`));
    }
  }
  expect(found).toEqual([]);
});
