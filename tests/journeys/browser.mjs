/** Debian's Chromium, headless, as the journeys and the screenshots use it. */
import { AsyncLocalStorage } from 'node:async_hooks'
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
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

/** The processes that were started for a profile of ours. */
const processesOf = (profile) =>
  readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .filter((pid) => {
      try {
        return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(`--user-data-dir=${profile}`)
      } catch {
        return false
      }
    })
    .map(Number)

/** Which journey opens a browser: journeys run beside each other. */
export const journey = new AsyncLocalStorage()
const open = new Map()
/** Ends every browser that a journey has open: whatever waits for one of them fails. */
export const endBrowsersOf = (name) =>
  Promise.all([...open].filter(([, by]) => by === name).map(([browser]) => browser.kill()))

/** Profiles that were made here go with the process: until then a browser may be opened again with one. */
const made = new Set()
process.on('exit', () => {
  for (const profile of made) rmSync(profile, { recursive: true, force: true })
})
function newProfile() {
  const profile = mkdtempSync(join(tmpdir(), 'wily-browser-'))
  made.add(profile)
  return profile
}

/** A browser with a profile of its own, kept in `profile` so that it can be closed and opened again. */
export async function openBrowser(profile = newProfile(), options = {}) {
  const context = await chromium.launchPersistentContext(profile, {
    executablePath: EXECUTABLE,
    args: ARGUMENTS,
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    reducedMotion: 'reduce', // what slides in and out takes time to wait for, and shows nothing more
    ...options,
  })
  const page = context.pages()[0] ?? (await context.newPage())
  const troubles = []
  page.on('pageerror', (error) => troubles.push(String(error)))
  page.on('console', (message) => {
    if (message.type() === 'error' && !/Failed to load resource|net::ERR/.test(message.text()))
      troubles.push(message.text())
  })
  const browser = {
    context,
    page,
    profile,
    troubles,
    close: () => context.close(),
    /** As a crash ends it: every process of this browser at once. */
    async kill() {
      const gone = new Promise((resolve) => context.on('close', resolve))
      for (const pid of processesOf(profile)) {
        try {
          process.kill(pid, 'SIGKILL')
        } catch {
          /* it went with its parent */
        }
      }
      await gone
      rmSync(join(profile, 'SingletonLock'), { force: true })
    },
    forget: () => rmSync(profile, { recursive: true, force: true }),
  }
  open.set(browser, journey.getStore())
  context.on('close', () => open.delete(browser))
  return browser
}
