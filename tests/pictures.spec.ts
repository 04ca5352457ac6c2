import { expect, test, type Page } from '@playwright/test'
import alarmBeam from '../demo/alarm-beam.json' with { type: 'json' }
import cloakroom from '../demo/cloakroom-queue.json' with { type: 'json' }
import docentsRound from '../demo/docents-round.json' with { type: 'json' }
import whichPoster from '../demo/which-poster.json' with { type: 'json' }
import type { EnvironmentDocument } from '../src/core/kinds/kinds'
import { exportText, openNew } from './study'

/** What an XML parser and an image say of a picture. */
async function judged(page: Page, svg: string) {
  return page.evaluate(async (text) => {
    const parsed = new DOMParser().parseFromString(text, 'image/svg+xml')
    const image = new Image()
    image.src = URL.createObjectURL(new Blob([text], { type: 'image/svg+xml' }))
    const loaded = await image.decode().then(
      () => image.naturalWidth > 100,
      () => false,
    )
    return {
      fault: parsed.querySelector('parsererror')?.textContent ?? null,
      root: parsed.documentElement.nodeName,
      loaded,
      // The typeface lies in the file, in its name's own words.
      typeface: parsed.querySelector('style')?.textContent?.includes('data:font/woff2;base64,') ?? false,
    }
  }, svg)
}

for (const [kind, document] of [
  ['a grid', alarmBeam],
  ['a bandit', whichPoster],
  ['a rulebook', cloakroom],
  ['a table', docentsRound],
] as const)
  test(`every picture of ${kind} is sound XML, a picture, and brings its typeface`, async ({ page }) => {
    const titled = { ...(document as unknown as EnvironmentDocument), name: `Pictures & <b>"of"</b> ${kind}` }
    await openNew(page, titled, 'plan')
    await page.getByRole('button', { name: 'One sweep', exact: true }).click()
    for (const stage of ['Plan', 'Learn']) {
      await page.getByRole('button', { name: stage, exact: true }).click()
      if (stage === 'Learn')
        for (let i = 0; i < 3; i++)
          await page.getByRole('button', { name: 'To the end of the episode' }).click()
      await expect(page.locator('footer')).toContainText(/[1-9]/)
      for (const picture of ['Picture of the board (SVG)', 'Picture of the strip (SVG)']) {
        const { text } = await exportText(page, picture)
        expect({ picture, ...(await judged(page, text)) }).toEqual({
          picture,
          fault: null,
          root: 'svg',
          loaded: true,
          typeface: true,
        })
      }
    }
  })
