import { chromium } from '@playwright/test';
import { Stage } from './stage';
const stage = await Stage.start();
const program = await stage.begin();
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.setDefaultTimeout(5000);
try {
  await page.goto(program.url + '/pages/page-race?edit=1');
  await page.locator('.edit-grid [data-control="ctl-program-3"]').click();
  await page.waitForTimeout(500);
  await page.screenshot({ path: '/tmp/s1.png' });
  const f = page.getByRole('combobox', { name: 'It sends', exact: true });
  await f.focus();
  await page.keyboard.type('c2 pres 4');
  await page.waitForTimeout(300);
  await page.screenshot({ path: '/tmp/s2.png' });
  await page.keyboard.press('Enter');
  await page.waitForTimeout(600);
  await page.screenshot({ path: '/tmp/s3.png' });
  await f.click();
  await page.waitForTimeout(300);
  await page.screenshot({ path: '/tmp/s4.png' });
  await page.keyboard.press('Escape');
  await page.goto(program.url + '/macros/mac-start');
  await page.waitForTimeout(700);
  await page.screenshot({ path: '/tmp/s5.png' });
} catch (e) {
  console.log(e);
  await page.screenshot({ path: '/tmp/serr.png' });
}
await browser.close();
await stage.stop();
process.exit(0);
