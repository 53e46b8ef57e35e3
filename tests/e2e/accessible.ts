/** What the accessibility check finds on a page. */
import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';

/**
 * @returns what it finds above minor, with up to three places of each: `color-contrast: .note, .count`
 *
 * It runs in the page itself, without the page of its own that it would open to put frames together: ours has none.
 */
export async function violationsOf(page: Page): Promise<string[]> {
  // What is fading in or out has the colours of neither.
  await page.evaluate(() => {
    const ends = document.getAnimations().filter(({ effect }) => effect?.getComputedTiming().endTime !== Infinity);
    return Promise.allSettled(ends.map(({ finished }) => finished));
  });
  // A message whose time is over may begin to fade while the check runs: without transitions it is there, or gone.
  const still = await page.addStyleTag({ content: '*, ::before, ::after { transition: none !important; animation: none !important; }' });
  const builder = new AxeBuilder({ page }).options({ resultTypes: ['violations'] }).setLegacyMode(true);
  const { violations } = await builder.analyze();
  await still.evaluate((style) => (style as Element).remove());
  return violations
    .filter(({ impact }) => impact !== 'minor')
    .map(({ id, nodes }) => `${id}: ${nodes.slice(0, 3).map(({ target }) => target.join(' ')).join(', ')}`);
} // prettier-ignore
