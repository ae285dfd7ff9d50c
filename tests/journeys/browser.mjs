/** Debian's Chromium, headless, as the journeys and the screenshots use it. */
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium } from 'playwright-core'

const EXECUTABLE = process.env.CHROMIUM ?? '/usr/bin/chromium'
const ARGUMENTS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
]

/** A browser with a profile of its own, kept in `profile` so that it can be closed and opened again. */
export async function openBrowser(profile = mkdtempSync(join(tmpdir(), 'wily-browser-')), options = {}) {
  const context = await chromium.launchPersistentContext(profile, {
    executablePath: EXECUTABLE,
    args: ARGUMENTS,
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    ...options,
  })
  const page = context.pages()[0] ?? (await context.newPage())
  const troubles = []
  page.on('pageerror', (error) => troubles.push(String(error)))
  page.on('console', (message) => {
    if (message.type() === 'error' && !/Failed to load resource|net::ERR/.test(message.text()))
      troubles.push(message.text())
  })
  return {
    context,
    page,
    profile,
    troubles,
    close: () => context.close(),
    forget: () => rmSync(profile, { recursive: true, force: true }),
  }
}
