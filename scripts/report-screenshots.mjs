/** Pictures of a report, light and dark: `node scripts/report-screenshots.mjs REPORT.html FOLDER`. */
import { chromium } from 'playwright-core';

const [report, folder] = process.argv.slice(2);
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking'],
});
for (const colorScheme of ['light', 'dark']) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, colorScheme });
  await page.goto(`file://${report}`);
  if (colorScheme === 'dark') await page.locator('td.cell .loss').first().click();
  await page.screenshot({ path: `${folder}/report-${colorScheme}.png` });
}
await browser.close();
