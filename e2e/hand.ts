import type { Locator, Page } from '@playwright/test';
import { expect } from './program';
import type { ProgramEnds } from './program-ends';

export const cell = (page: Page, col: number, row: number) =>
  page.getByRole('button', { name: `Empty, column ${col + 1}, row ${row + 1}`, exact: true });
export const offer = (page: Page, title: string) => page.locator('.offers button').filter({ hasText: title }).first();
/** A control of the page that is edited, by what stands on it. */
export const edited = (page: Page, text: string) =>
  page.locator('.edit-grid [data-control]').filter({ hasText: text }).first();

/** All devices are up: before that nothing can be pressed. */
export const allUp = (page: Page, count = 26) =>
  expect(page.getByRole('button', { name: `All links: ${count} of ${count} up`, exact: true })).toBeVisible();

/** The same, for a screen that is no desk. */
export const linksUp = (program: ProgramEnds) =>
  expect
    .poll(async () => {
      const { links } = await program.health();
      return links.length > 0 && links.every(({ link }) => ['up', 'one-way'].includes(link.word));
    })
    .toBe(true);

/** Opens the details of a device of the rig, at one of their tabs. */
export async function openDevice(page: Page, name: string, tab?: string): Promise<Locator> {
  const details = page.getByRole('article', { name, exact: true });
  if (!(await details.isVisible())) await page.getByRole('row', { name, exact: true }).click();
  await expect(details).toBeVisible();
  if (tab !== undefined) await details.getByRole('tab', { name: tab, exact: true }).click();
  return details;
}

/** Tests the connection of a device. */
export async function testDevice(page: Page, name: string): Promise<void> {
  const details = await openDevice(page, name, 'Test');
  await details.getByRole('button', { name: /^Test (connection|again)$/ }).click();
}

/** Everything that was edited is stored, and the engine runs with it. */
export const stored = (page: Page) => expect(page.locator('.desk[data-storing="false"]')).toBeVisible();

/** Picks from a searchable list what the words find first, and expects that it is the one called so. */
export async function pick(picker: Locator, words: string, title = words): Promise<void> {
  await picker.click();
  const list = picker.page().getByRole('dialog').last();
  await list.getByRole('combobox').fill(words);
  await expect(list.getByRole('option').first()).toContainText(title);
  await list.getByRole('combobox').press('Enter');
  await expect(list).toBeHidden();
}

/** Chooses from a list of a few, or from a searched one, by the option's words or by its place. */
export async function choose(field: Locator, option: string | RegExp | number): Promise<void> {
  await field.click();
  const list = field.page().locator('[role="listbox"]:visible').last();
  const options = list.getByRole('option');
  await (
    typeof option === 'number'
      ? options.nth(option)
      : options.filter({ hasText: typeof option === 'string' ? new RegExp(`^${escaped(option)}$`) : option }).last()
  ).click();
  await expect(list).toBeHidden();
}

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

export async function newPage(page: Page, url: string, name: string): Promise<void> {
  await page.goto(`${url}/pages/page-race?edit=1`);
  await page.getByRole('button', { name: 'New page' }).click();
  await expect(page.getByRole('heading', { level: 1, name: 'New page' })).toBeVisible();
  await page.getByRole('textbox', { name: 'Name', exact: true }).fill(name);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1, name })).toBeVisible();
}

/** Goes on with Tab until what is wanted has the focus. */
export async function tabTo(page: Page, target: Locator, back = false): Promise<void> {
  for (let n = 0; n < 160; n += 1) {
    if (await target.evaluate((element) => element === document.activeElement).catch(() => false)) return;
    await page.keyboard.press(back ? 'Shift+Tab' : 'Tab');
  }
  throw new Error('It cannot be reached with Tab.');
}

/** A hand that counts what it does. Typed labels and names are free. */
export class Hand {
  count = 0;
  constructor(private readonly page: Page) {}

  async click(target: Locator): Promise<void> {
    this.count += 1;
    await target.click();
  }

  async press(key: string): Promise<void> {
    this.count += 1;
    await this.page.keyboard.press(key);
  }

  /** Each letter is an action. */
  async type(text: string): Promise<void> {
    this.count += text.length;
    await this.page.keyboard.type(text);
  }

  async label(text: string): Promise<void> {
    await this.page.keyboard.type(text);
  }

  async drag(from: Locator, to: Locator): Promise<void> {
    this.count += 1;
    const [a, b] = [await from.boundingBox(), await to.boundingBox()];
    if (!a || !b) throw new Error('Nothing to drag.');
    await this.page.mouse.move(a.x + a.width / 2, a.y + a.height / 2);
    await this.page.mouse.down();
    await this.page.mouse.move(b.x + b.width / 2, b.y + b.height / 2, { steps: 5 });
    await this.page.mouse.up();
  }
}

/** Searches what the rig offers and drags the first of that title onto a cell. */
export async function take(page: Page, hand: Hand, search: string, title: string, to: Locator): Promise<void> {
  await hand.click(page.getByRole('tab', { name: 'Offers' }));
  const field = page.getByRole('searchbox', { name: 'Search' });
  await expect(field).toBeFocused();
  await hand.type(search);
  // Several devices may offer what was searched for.
  await offer(page, title).scrollIntoViewIfNeeded();
  await hand.drag(offer(page, title), to);
  await expect(page.getByRole('heading', { level: 2, name: title })).toBeVisible();
}

/** Deals a series from the control that is chosen, over cells that are drawn. */
export async function deal(page: Page, hand: Hand, from: Locator, to: Locator, count: number): Promise<void> {
  await hand.click(page.getByRole('button', { name: 'Series', exact: true }));
  await hand.drag(from, to);
  await hand.click(page.getByRole('button', { name: `Deal ${count}`, exact: true }));
  await expect(page.getByRole('heading', { level: 2, name: `${count} controls` })).toBeVisible();
}

/**
 * Presses a button that wants to be pressed twice, as a person does it. The time between the presses is the browser's own, and not that of
 * a busy computer that drives it.
 */
export async function pressTwice(button: Locator): Promise<void> {
  await expect(button).toBeEnabled();
  await button.evaluate((element) => {
    const press = () => {
      const at = { bubbles: true, pointerId: 1, button: 0 };
      element.dispatchEvent(new PointerEvent('pointerdown', at));
      element.dispatchEvent(new PointerEvent('pointerup', at));
    };
    press();
    setTimeout(press, 300);
  });
}
