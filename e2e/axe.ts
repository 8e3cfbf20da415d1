import { AxeBuilder } from '@axe-core/playwright'
import type { Page } from '@playwright/test'

/** What axe finds on a page, each fault with where it is; by some of its rules, or by all. */
export async function axe(page: Page, ...rules: string[]): Promise<string[]> {
  const look = new AxeBuilder({ page }).options({ resultTypes: ['violations'] })
  if (rules.length > 0) look.withRules(rules)
  // In one go where there are no frames: handing what was found from page to page takes twice as long as finding it.
  if (page.frames().length === 1) look.setLegacyMode()
  const { violations } = await look.analyze()
  return violations.map(
    (v) =>
      `${v.id}: ${v.nodes
        .map((n) => n.html)
        .slice(0, 3)
        .join(' | ')}`,
  )
}
