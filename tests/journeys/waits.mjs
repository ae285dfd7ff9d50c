/** How long a person waits: from the page's own marks. */

export const now = (page) => page.evaluate(() => performance.now())
export const middle = (values) => [...values].sort((a, b) => a - b)[values.length >> 1]

/** Milliseconds from a moment to the next mark of a name. */
export const markAfter = (page, name, since) =>
  page
    .waitForFunction(
      ([n, s]) => {
        const entry = performance.getEntriesByName(n).at(-1)
        return entry && entry.startTime > s ? entry.startTime - s : false
      },
      [name, since],
      { polling: 5, timeout: 60_000 },
    )
    .then((handle) => handle.jsonValue())

/** One turn of the wheel where the pointer is: milliseconds until the picture is complete at another scale. */
export async function zoomStep(page, turn) {
  const before = await page.evaluate(() => performance.getEntriesByName('wily:picture').at(-1).detail),
    started = await now(page)
  await page.mouse.wheel(0, turn)
  const handle = await page.waitForFunction(
    ([s, scale]) => {
      const entry = performance.getEntriesByName('wily:picture').at(-1)
      return entry && entry.startTime > s && entry.detail !== scale ? entry.startTime - s : false
    },
    [started, before],
    { polling: 5, timeout: 60_000 },
  )
  return handle.jsonValue()
}
